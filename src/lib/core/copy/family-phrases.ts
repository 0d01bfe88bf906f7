import { inLanguage } from './language';

/** The fixed words of the family's page beside its letters; `{name}`, `{time}`, `{names}` and `{section}` are filled in. */
export interface FamilyPhrases {
	/** The box to answer in. */
	readonly answer: string;
	readonly answerTo: string;
	readonly files: string;
	readonly send: string;
	readonly sent: string;
	/** Over what was said, and of who said it. */
	readonly you: string;
	/** Beside a letter to which nobody reads answers. */
	readonly noAnswers: string;
	/** What is wrong. */
	readonly noWords: string;
	readonly tooMany: string;
	readonly noConnection: string;
	readonly fileNotTaken: string;
	/** Writing to the staff of a section. */
	readonly write: string;
	readonly writeTo: string;
	readonly about: string;
	readonly begun: string;
	/** Finding letters. */
	readonly find: string;
	readonly everyone: string;
	readonly nothingFound: string;
	readonly away: string;
	/** Whoever answers has the conversation open. */
	readonly here: string;
	/** To the page of choices, and back. */
	readonly choices: string;
	readonly back: string;
	readonly notForMe: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const pageWords: Readonly<Record<string, FamilyPhrases>> = {
	en: {
		answer: 'Your answer',
		answerTo: 'It goes to {name} alone.',
		files: 'Pictures or files',
		send: 'Send the answer',
		sent: 'Sent. {name} is told.',
		you: 'You',
		noAnswers: 'An announcement: nobody reads answers to it.',
		noWords: 'Write something first, or put a picture in.',
		tooMany: 'That is more than can be taken in an hour. Call the school office.',
		noConnection: 'No connection. What you wrote is kept here: send it again in a moment.',
		fileNotTaken: 'A file was not taken: {why}',
		write: 'Write to school',
		writeTo: 'To the staff of',
		about: 'About',
		begun: 'Sent. Whoever teaches in {section} is told.',
		find: 'Find in your letters',
		everyone: 'All',
		nothingFound: 'No letter has these words.',
		away: '{name} is away: {words}',
		here: '{name} is here now.',
		choices: 'What you get, and how',
		back: 'To your letters',
		notForMe: 'This is not for me'
	},
	es: {
		answer: 'Su respuesta',
		answerTo: 'Llega solo a {name}.',
		files: 'Fotos o archivos',
		send: 'Enviar la respuesta',
		sent: 'Enviado. {name} lo sabe.',
		you: 'Usted',
		noAnswers: 'Es un aviso: nadie lee las respuestas.',
		noWords: 'Escriba algo primero, o añada una foto.',
		tooMany: 'Es más de lo que se puede recibir en una hora. Llame a la oficina de la escuela.',
		noConnection: 'Sin conexión. Lo que escribió queda aquí: envíelo otra vez en un momento.',
		fileNotTaken: 'Un archivo no se aceptó: {why}',
		write: 'Escribir a la escuela',
		writeTo: 'Al personal de',
		about: 'Asunto',
		begun: 'Enviado. Quien enseña en {section} lo sabe.',
		find: 'Buscar en sus cartas',
		everyone: 'Todas',
		nothingFound: 'Ninguna carta tiene estas palabras.',
		away: '{name} no está: {words}',
		here: '{name} está aquí ahora.',
		choices: 'Qué recibe y cómo',
		back: 'A sus cartas',
		notForMe: 'Esto no es para mí'
	},
	pt: {
		answer: 'A sua resposta',
		answerTo: 'Chega só a {name}.',
		files: 'Fotografias ou ficheiros',
		send: 'Enviar a resposta',
		sent: 'Enviado. {name} sabe.',
		you: 'Você',
		noAnswers: 'É um aviso: ninguém lê as respostas.',
		noWords: 'Escreva algo primeiro, ou junte uma fotografia.',
		tooMany: 'É mais do que se pode receber numa hora. Telefone para a secretaria.',
		noConnection: 'Sem ligação. O que escreveu fica aqui: envie de novo daqui a pouco.',
		fileNotTaken: 'Um ficheiro não foi aceite: {why}',
		write: 'Escrever à escola',
		writeTo: 'Ao pessoal de',
		about: 'Assunto',
		begun: 'Enviado. Quem ensina em {section} sabe.',
		find: 'Procurar nas suas cartas',
		everyone: 'Todas',
		nothingFound: 'Nenhuma carta tem estas palavras.',
		away: '{name} está ausente: {words}',
		here: '{name} está aqui agora.',
		choices: 'O que recebe e como',
		back: 'Às suas cartas',
		notForMe: 'Isto não é para mim'
	},
	vi: {
		answer: 'Câu trả lời của quý vị',
		answerTo: 'Chỉ {name} nhận được.',
		files: 'Ảnh hoặc tệp',
		send: 'Gửi câu trả lời',
		sent: 'Đã gửi. {name} đã biết.',
		you: 'Quý vị',
		noAnswers: 'Đây là thông báo: không ai đọc thư trả lời.',
		noWords: 'Xin viết gì đó trước, hoặc thêm ảnh.',
		tooMany: 'Nhiều hơn mức nhận được trong một giờ. Xin gọi văn phòng trường.',
		noConnection: 'Không có kết nối. Điều quý vị viết được giữ ở đây: xin gửi lại sau.',
		fileNotTaken: 'Một tệp không được nhận: {why}',
		write: 'Viết cho trường',
		writeTo: 'Gửi giáo viên lớp',
		about: 'Về việc',
		begun: 'Đã gửi. Giáo viên lớp {section} đã biết.',
		find: 'Tìm trong thư của quý vị',
		everyone: 'Tất cả',
		nothingFound: 'Không có thư nào có những từ này.',
		away: '{name} đang vắng mặt: {words}',
		here: '{name} đang ở đây.',
		choices: 'Quý vị nhận gì và bằng cách nào',
		back: 'Về các thư',
		notForMe: 'Thư này không phải cho tôi'
	},
	ar: {
		answer: 'ردكم',
		answerTo: 'يصل إلى {name} وحده.',
		files: 'صور أو ملفات',
		send: 'إرسال الرد',
		sent: 'أُرسل. {name} على علم.',
		you: 'أنتم',
		noAnswers: 'هذا إعلان: لا أحد يقرأ الردود عليه.',
		noWords: 'اكتبوا شيئا أولا، أو أضيفوا صورة.',
		tooMany: 'هذا أكثر مما يمكن استلامه في ساعة. اتصلوا بمكتب المدرسة.',
		noConnection: 'لا اتصال. ما كتبتموه محفوظ هنا: أرسلوه مرة أخرى بعد قليل.',
		fileNotTaken: 'لم يُقبل ملف: {why}',
		write: 'الكتابة إلى المدرسة',
		writeTo: 'إلى معلمي',
		about: 'الموضوع',
		begun: 'أُرسل. معلمو {section} على علم.',
		find: 'البحث في رسائلكم',
		everyone: 'الكل',
		nothingFound: 'لا توجد رسالة بهذه الكلمات.',
		away: '{name} خارج العمل: {words}',
		here: '{name} هنا الآن.',
		choices: 'ما يصلكم وكيف',
		back: 'إلى رسائلكم',
		notForMe: 'هذا ليس لي'
	}
};

/** The words of the family's page in a language; English where there are none. */
export const familyPhrases = (language: string): FamilyPhrases =>
	inLanguage(pageWords, [language]).words;
