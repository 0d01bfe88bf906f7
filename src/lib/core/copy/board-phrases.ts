import { inLanguage } from './language';

/** The fixed words of boards; `{time}`, `{name}` and `{names}` are filled in. */
export interface BoardPhrases {
	/** To the page of the boards, and over it. */
	readonly boards: string;
	/** To one board, from what follows it. */
	readonly boardOf: string;
	readonly pinned: string;
	/** What lies behind those in front. */
	readonly earlier: string;
	readonly changedAt: string;
	/** Over what it said before. */
	readonly before: string;
	readonly until: string;
	readonly also: string;
	readonly empty: string;
	readonly emptyOn: string;
	/** Sections of terms that are over, and back. */
	readonly termsOver: string;
	readonly nowRunning: string;
	readonly back: string;
	/** Following a board from elsewhere. */
	readonly follow: string;
	readonly followSays: string;
	readonly feed: string;
	readonly calendar: string;
	readonly makeFollow: string;
	readonly endFollow: string;
	/** In the place of names, where anybody may read it. */
	readonly families: string;
	readonly yourStudent: string;
	readonly theTeacher: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const boardWords: Readonly<Record<string, BoardPhrases>> = {
	en: {
		boards: 'Boards',
		boardOf: 'Board of {name}',
		pinned: 'Pinned',
		earlier: 'Earlier',
		changedAt: 'Changed {time}',
		before: 'What it said before',
		until: 'until {time}',
		also: 'Also on the board of {names}',
		empty: 'Nothing stands here now.',
		emptyOn: 'Nothing stands now on the boards of {names}.',
		termsOver: 'Terms that are over',
		nowRunning: 'To what runs now',
		back: 'To your letters',
		follow: 'Follow a board elsewhere',
		followSays:
			'An address for a program that follows news or calendars. It is yours: give it to nobody. It opens that board alone.',
		feed: 'News',
		calendar: 'Calendar',
		makeFollow: 'Make an address',
		endFollow: 'End this address',
		families: 'families',
		yourStudent: 'your student',
		theTeacher: 'the teacher'
	},
	es: {
		boards: 'Tablones',
		boardOf: 'Tablón de {name}',
		pinned: 'Fijado',
		earlier: 'Anteriores',
		changedAt: 'Cambiado {time}',
		before: 'Lo que decía antes',
		until: 'hasta {time}',
		also: 'También en el tablón de {names}',
		empty: 'Ahora no hay nada aquí.',
		emptyOn: 'Ahora no hay nada en los tablones de {names}.',
		termsOver: 'Períodos terminados',
		nowRunning: 'A lo de ahora',
		back: 'A sus cartas',
		follow: 'Seguir un tablón desde otro programa',
		followSays:
			'Una dirección para un programa que sigue noticias o calendarios. Es suya: no se la dé a nadie. Abre solo este tablón.',
		feed: 'Noticias',
		calendar: 'Calendario',
		makeFollow: 'Crear una dirección',
		endFollow: 'Terminar esta dirección',
		families: 'familias',
		yourStudent: 'su estudiante',
		theTeacher: 'el personal docente'
	},
	pt: {
		boards: 'Quadros',
		boardOf: 'Quadro de {name}',
		pinned: 'Fixado',
		earlier: 'Anteriores',
		changedAt: 'Alterado {time}',
		before: 'O que dizia antes',
		until: 'até {time}',
		also: 'Também no quadro de {names}',
		empty: 'Agora não há nada aqui.',
		emptyOn: 'Agora não há nada nos quadros de {names}.',
		termsOver: 'Períodos terminados',
		nowRunning: 'Ao que decorre agora',
		back: 'Às suas cartas',
		follow: 'Seguir um quadro noutro programa',
		followSays:
			'Um endereço para um programa que segue notícias ou calendários. É seu: não o dê a ninguém. Abre apenas este quadro.',
		feed: 'Notícias',
		calendar: 'Calendário',
		makeFollow: 'Criar um endereço',
		endFollow: 'Terminar este endereço',
		families: 'famílias',
		yourStudent: 'o seu aluno',
		theTeacher: 'o pessoal docente'
	},
	vi: {
		boards: 'Bảng tin',
		boardOf: 'Bảng tin của {name}',
		pinned: 'Đã ghim',
		earlier: 'Trước đây',
		changedAt: 'Đã sửa {time}',
		before: 'Nội dung trước đó',
		until: 'đến {time}',
		also: 'Cũng có trên bảng tin của {names}',
		empty: 'Hiện không có gì ở đây.',
		emptyOn: 'Hiện không có gì trên bảng tin của {names}.',
		termsOver: 'Các học kỳ đã qua',
		nowRunning: 'Về học kỳ hiện tại',
		back: 'Về thư của quý vị',
		follow: 'Theo dõi bảng tin ở nơi khác',
		followSays:
			'Một địa chỉ cho chương trình theo dõi tin tức hoặc lịch. Đây là của riêng quý vị: đừng đưa cho ai. Nó chỉ mở bảng tin này.',
		feed: 'Tin tức',
		calendar: 'Lịch',
		makeFollow: 'Tạo một địa chỉ',
		endFollow: 'Kết thúc địa chỉ này',
		families: 'quý phụ huynh',
		yourStudent: 'con quý vị',
		theTeacher: 'giáo viên'
	},
	ar: {
		boards: 'لوحات الإعلانات',
		boardOf: 'لوحة {name}',
		pinned: 'مثبّت',
		earlier: 'سابقًا',
		changedAt: 'عُدّل {time}',
		before: 'ما كان مكتوبًا من قبل',
		until: 'حتى {time}',
		also: 'أيضًا على لوحة {names}',
		empty: 'لا شيء هنا الآن.',
		emptyOn: 'لا شيء الآن على لوحات {names}.',
		termsOver: 'فصول انتهت',
		nowRunning: 'إلى ما يجري الآن',
		back: 'إلى رسائلكم',
		follow: 'متابعة لوحة من برنامج آخر',
		followSays:
			'عنوان لبرنامج يتابع الأخبار أو التقاويم. هو لكم وحدكم: لا تعطوه لأحد. يفتح هذه اللوحة فقط.',
		feed: 'الأخبار',
		calendar: 'التقويم',
		makeFollow: 'إنشاء عنوان',
		endFollow: 'إنهاء هذا العنوان',
		families: 'الأسر',
		yourStudent: 'ابنكم',
		theTeacher: 'المعلم'
	}
};

/** The fixed words of boards for a language; English where there are none. */
export const boardPhrases = (language: string): BoardPhrases =>
	inLanguage(boardWords, [language]).words;
