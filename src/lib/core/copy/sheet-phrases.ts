import { inLanguage } from './language';

/** The words on a sheet of paper that gives somebody the way to their inbox. Each stands on a line of its own, so that no name is put into a sentence that runs the other way. */
export interface SheetPhrases {
	readonly title: string;
	/** Before the names of the students it is about. */
	readonly about: string;
	readonly how: string;
	readonly own: string;
	/** Before the day until which it opens. */
	readonly until: string;
	readonly after: string;
}

export const sheetWords: Readonly<Record<string, SheetPhrases>> = {
	en: {
		title: 'The way to your inbox',
		about: 'What school writes to you about',
		how: 'Point the camera of a phone at the square, or type this address:',
		own: 'It is for you alone: whoever has it can read your letters.',
		until: 'It opens your inbox until',
		after: 'Ask the school office for another whenever you need one.'
	},
	es: {
		title: 'El camino a su buzón',
		about: 'Lo que la escuela le escribe sobre',
		how: 'Apunte la cámara de un teléfono al cuadrado, o escriba esta dirección:',
		own: 'Es solo para usted: quien la tenga puede leer sus cartas.',
		until: 'Abre su buzón hasta',
		after: 'Pida otra en la oficina de la escuela cuando la necesite.'
	},
	pt: {
		title: 'O caminho para a sua caixa de correio',
		about: 'O que a escola lhe escreve sobre',
		how: 'Aponte a câmara de um telefone para o quadrado, ou escreva este endereço:',
		own: 'É só para si: quem o tiver pode ler as suas cartas.',
		until: 'Abre a sua caixa até',
		after: 'Peça outro na secretaria da escola sempre que precisar.'
	},
	vi: {
		title: 'Đường vào hộp thư của quý vị',
		about: 'Những gì nhà trường viết cho quý vị về',
		how: 'Hướng máy ảnh của điện thoại vào ô vuông, hoặc gõ địa chỉ này:',
		own: 'Chỉ dành riêng cho quý vị: ai có địa chỉ này đều đọc được thư của quý vị.',
		until: 'Mở được hộp thư đến',
		after: 'Xin văn phòng nhà trường địa chỉ khác khi quý vị cần.'
	},
	ar: {
		title: 'الطريق إلى صندوق رسائلكم',
		about: 'ما تكتبه لكم المدرسة بخصوص',
		how: 'وجّهوا كاميرا الهاتف نحو المربع أو اكتبوا هذا العنوان',
		own: 'هو لكم وحدكم فمن يملكه يستطيع قراءة رسائلكم',
		until: 'يفتح صندوقكم حتى',
		after: 'اطلبوا عنوانًا آخر من مكتب المدرسة متى احتجتم إليه'
	}
};

/** The words in the nearest language there is (RFC 4647 section 3.4), and its tag; English where there is none. */
export function sheetPhrases(language: string): SheetPhrases & { readonly tag: string } {
	const { tag, words } = inLanguage(sheetWords, [language]);
	return { ...words, tag };
}
