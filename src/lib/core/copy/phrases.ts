import { inLanguage } from './language';

/** The fixed words around a letter and in the inbox, in the languages they have been put into so far. */
export interface Phrases {
	/** Above a letter; `{names}` are the students it speaks of. */
	readonly about: string;
	/** Before the private link below a letter. */
	readonly read: string;
	/** Before the files that come by link. */
	readonly files: string;
	/** On the link by which a kind of message stops coming by email. */
	readonly stop: string;
	/** Of the inbox page: whose it is. */
	readonly inboxOf: string;
	/** Over a letter that is about nobody but its reader. */
	readonly forYou: string;
	readonly noLetters: string;
	/** On the button, and once it was tapped; `{time}` and `{sender}` are filled in. */
	readonly seen: string;
	readonly seenAt: string;
	readonly notSeen: string;
	/** What a marker says of a student who has it. */
	readonly yes: string;
}

export const aroundLetters: Readonly<Record<string, Phrases>> = {
	en: {
		about: 'For {names}',
		read: 'Read it in your inbox and say that you have seen it',
		files: 'Files with this letter',
		stop: 'No more of these by email',
		inboxOf: 'For {name}',
		forYou: 'For you',
		noLetters: 'No letters yet. When school writes to you, they stand here, the newest on top.',
		seen: 'I have seen this',
		seenAt: 'You said that you have seen this at {time}. {sender} knows.',
		notSeen: 'not seen yet',
		yes: 'yes'
	},
	es: {
		about: 'Sobre {names}',
		read: 'Léalo en su buzón y diga que lo ha visto',
		files: 'Archivos de esta carta',
		stop: 'No recibir más mensajes de este tipo por correo',
		inboxOf: 'Para {name}',
		forYou: 'Para usted',
		noLetters:
			'Todavía no hay cartas. Cuando la escuela le escriba, estarán aquí, la más nueva arriba.',
		seen: 'Lo he visto',
		seenAt: 'Usted dijo a las {time} que lo ha visto. {sender} lo sabe.',
		notSeen: 'sin ver',
		yes: 'sí'
	},
	pt: {
		about: 'Sobre {names}',
		read: 'Leia na sua caixa e diga que já viu',
		files: 'Ficheiros desta carta',
		stop: 'Não receber mais mensagens destas por email',
		inboxOf: 'Para {name}',
		forYou: 'Para si',
		noLetters:
			'Ainda não há cartas. Quando a escola lhe escrever, ficam aqui, a mais recente em cima.',
		seen: 'Já vi',
		seenAt: 'Disse às {time} que já viu. {sender} sabe.',
		notSeen: 'por ver',
		yes: 'sim'
	},
	vi: {
		about: 'Về {names}',
		read: 'Đọc trong hộp thư của quý vị và cho biết đã xem',
		files: 'Tệp kèm theo thư này',
		stop: 'Không nhận loại thư này qua email nữa',
		inboxOf: 'Gửi {name}',
		forYou: 'Gửi quý vị',
		noLetters: 'Chưa có thư. Khi trường viết cho quý vị, thư sẽ ở đây, thư mới nhất ở trên.',
		seen: 'Tôi đã xem',
		seenAt: 'Quý vị đã báo là đã xem lúc {time}. {sender} đã biết.',
		notSeen: 'chưa xem',
		yes: 'có'
	},
	ar: {
		about: 'بخصوص {names}',
		read: 'اقرأها في صندوقك وأخبرنا أنك اطلعت عليها',
		files: 'ملفات هذه الرسالة',
		stop: 'إيقاف هذا النوع من الرسائل عبر البريد الإلكتروني',
		inboxOf: 'إلى {name}',
		forYou: 'إليك',
		noLetters: 'لا توجد رسائل بعد. عندما تكتب إليك المدرسة ستجد رسائلها هنا، والأحدث في الأعلى.',
		seen: 'اطلعت على هذا',
		seenAt: 'أخبرتنا الساعة {time} أنك اطلعت على هذا. {sender} على علم بذلك.',
		notSeen: 'لم تُقرأ بعد',
		yes: 'نعم'
	}
};

/** The fixed words for a language; English where there are none. */
export const phrasesFor = (language: string): Phrases =>
	inLanguage(aroundLetters, [language]).words;

/** The language that a page of ours is in for a reader of another: theirs where there are fixed words in it, else English. */
export const pageLanguage = (language: string): string =>
	inLanguage(aroundLetters, [language]).tag === 'en' ? 'en' : language;

/** A phrase with its parts filled in; a part is never read as a pattern. */
export const fillPhrase = (phrase: string, parts: Readonly<Record<string, string>>): string =>
	phrase.replace(/\{(\w+)\}/g, (whole, name: string) => parts[name] ?? whole);
