import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import arrows from './eslint.arrows.js';
import svelteConfig from './svelte.config.js';

export default ts.config(
	{
		ignores: [
			'.stryker-tmp/',
			'build/',
			'.svelte-kit/',
			'node_modules/',
			'data/',
			'coverage/',
			'.tmp/'
		]
	},
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{
		languageOptions: { globals: { ...globals.browser, ...globals.node } },
		rules: {
			'no-undef': 'off',
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
			// Links go through resolve() only where a base path is wanted; the application stands at the root.
			'svelte/no-navigation-without-resolve': 'off',
			// There are no stores here, and looking for them takes a tenth of all the time.
			'svelte/require-store-reactive-access': 'off'
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } }
	},
	{
		// What only the types tell: a promise nobody waits for, a case that a switch leaves open.
		files: ['{src,courier,standin,upkeep,demo,test}/**/*.{ts,svelte}'],
		languageOptions: {
			parserOptions: { projectService: true, extraFileExtensions: ['.svelte'] }
		},
		rules: {
			'@typescript-eslint/no-floating-promises': 'error',
			'@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
			'@typescript-eslint/await-thenable': 'error',
			'@typescript-eslint/switch-exhaustiveness-check': [
				'error',
				{ considerDefaultExhaustiveForUnions: true }
			]
		}
	},
	{
		// Arrows run one way: the core knows only itself and small pure libraries.
		files: ['src/lib/core/**/*.ts'],
		rules: {
			'no-restricted-imports': [
				'error',
				{
					patterns: ['node:*', 'svelte', '@sveltejs/*', 'sequelize', 'sqlite3']
				}
			],
			'no-restricted-globals': ['error', 'fetch', 'process'],
			'no-restricted-properties': [
				'error',
				{ object: 'Date', property: 'now', message: 'The core has no clock: pass the instant in.' },
				{ object: 'Math', property: 'random', message: 'The core draws nothing: pass the draw in.' }
			]
		}
	},
	arrows,
	{
		// Roles are weighed in access/ alone: everybody else asks may() and scope().
		files: [
			'src/lib/server/{desk,http,planner}/**/*.ts',
			'src/{routes,lib/ui}/**/*',
			'courier/**/*.ts'
		],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: 'BinaryExpression > MemberExpression[property.name="role"] ~ Literal',
					message: 'Ask may(user, act) or scope(user) of access/may.'
				}
			]
		}
	},
	{
		files: ['test/**/*.ts'],
		rules: { '@typescript-eslint/no-unused-expressions': 'off' }
	}
);
