import { expect } from 'chai';
import { likenessOf } from '../../../../src/lib/core/talk/alike';

describe('what several families can say alike', () => {
	const said =
		(names: string[] = []) =>
		(text: string) =>
			likenessOf(text, names);

	it('is a yes in any of the languages, with whatever courtesy around it', () => {
		for (const text of [
			'Yes',
			'yes!',
			'We’ll be there',
			'WE ARE COMING',
			'Sure, thank you',
			'Sí, gracias',
			'Claro que sí'
		]) {
			expect(said()(text), text).to.equal('yes');
		}
		for (const text of [
			'Sim, obrigada',
			'Vâng ạ, cảm ơn cô',
			'Có ạ',
			'نعم، شكراً',
			'أجل',
			'✅',
			'Good morning, yes. Regards'
		]) {
			expect(said()(text), text).to.equal('yes');
		}
	});

	it('is a no, or that it was seen', () => {
		for (const text of [
			'No',
			'We can’t come',
			'No podemos ir',
			'não',
			'Không ạ',
			'لا',
			'No, thank you',
			'👎'
		]) {
			expect(said()(text), text).to.equal('no');
		}
		for (const text of [
			'OK',
			'Thanks',
			'Got it!',
			'Gracias',
			'Obrigado',
			'Cảm ơn',
			'شكرا',
			'👍🏽',
			'👍👍',
			'Noted, thanks'
		]) {
			expect(said()(text), text).to.equal('seen');
		}
	});

	it('may name whom it is about, who writes and who is answered, and nobody else', () => {
		const names = ['Linh', 'Pham', 'Bao Pham', 'Maren Quill'];
		for (const text of [
			'Linh comes',
			'Yes, Linh will be there',
			'Hi Ms Quill, yes. Bao Pham',
			'LINH is coming'
		])
			expect(said(names)(text), text).to.equal('yes');
		expect(said(names)('Linh cannot come')).to.equal('no');
		for (const text of ['Tomás comes', 'Linh and Tomás come', 'Linh', 'Linh comes with Tomás'])
			expect(said(names)(text), text).to.equal(null);
	});

	it('is nothing where a word adds something, a question is asked, or two things are said', () => {
		for (const text of [
			'Yes 2',
			'Yes, but late',
			'Yes?',
			'Is it OK?',
			'yes no',
			'Yes, at what time',
			'No idea',
			'Thanks for nothing at all',
			'',
			'   ',
			'…',
			'Okay so what now'
		]) {
			expect(said()(text), text).to.equal(null);
		}
		expect(said()('yes '.repeat(60))).to.equal(null);
	});
});
