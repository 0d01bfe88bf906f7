import { inLanguage } from './language';

/** The fixed words of a daily digest; `{district}` is filled in. */
export interface DigestPhrases {
	readonly subject: string;
	readonly intro: string;
	/** How one of its letters is answered. */
	readonly answer: string;
	readonly change: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const digestWords: Readonly<Record<string, DigestPhrases>> = {
	en: {
		subject: 'Your letters from {district}',
		intro: 'You get the letters of a day in one:',
		answer: 'To answer one of them, open it.',
		change: 'Change what you get, and how'
	},
	es: {
		subject: 'Sus cartas de {district}',
		intro: 'Usted recibe las cartas del día en una:',
		answer: 'Para responder a una de ellas, ábrala.',
		change: 'Cambiar qué recibe y cómo'
	},
	pt: {
		subject: 'As suas cartas de {district}',
		intro: 'Recebe as cartas do dia numa só:',
		answer: 'Para responder a uma delas, abra-a.',
		change: 'Mudar o que recebe e como'
	},
	vi: {
		subject: 'Thư của quý vị từ {district}',
		intro: 'Quý vị nhận thư trong ngày gộp thành một:',
		answer: 'Để trả lời một thư, hãy mở thư đó.',
		change: 'Đổi những gì quý vị nhận và cách nhận'
	},
	ar: {
		subject: 'رسائلكم من {district}',
		intro: 'تصلكم رسائل اليوم في رسالة واحدة:',
		answer: 'للرد على إحداها، افتحوها.',
		change: 'تغيير ما يصلكم وكيف يصلكم'
	}
};

/** The fixed words of digests in the language that suits best, with its tag. */
export function digestPhrases(wanted: string): DigestPhrases & { readonly tag: string } {
	const { tag, words } = inLanguage(digestWords, [wanted]);
	return { tag, ...words };
}
