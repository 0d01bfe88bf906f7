import { inLanguage } from './language';

/**
 * What is said by itself to whoever answers: that STOP was obeyed, who writes, that nobody answers to an announcement.
 * `{district}`, `{subject}`, `{link}`, `{page}` and `{name}` are filled in.
 */
export interface TalkPhrases {
	/** Texts. */
	readonly stopped: string;
	readonly started: string;
	readonly help: string;
	readonly askTexts: string;
	/** To what asks for no answer; by text, and in a letter. */
	readonly oneWay: string;
	readonly oneWaySubject: string;
	/** Before the words of whoever is away; subject of the letter. */
	readonly away: string;
	readonly awaySubject: string;
	/** The link that was asked for: by text, and in a letter. */
	readonly link: string;
	readonly linkSubject: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const talkWords: Readonly<Record<string, TalkPhrases>> = {
	en: {
		stopped:
			'{district}: no more texts come to this phone. START brings them back. By email and on your page you still hear from us.',
		started: '{district}: texts come to this phone again. STOP ends them.',
		help: '{district}: messages from school for families. To write to us or choose what you get: {page} STOP ends texts.',
		askTexts:
			'{district}: answer YES to get texts from school on this phone. If you did not ask for this, answer nothing.',
		oneWay:
			'“{subject}” is an announcement: nobody reads answers to it. What you wrote is kept. To write to school, open your page: {link}',
		oneWaySubject: 'Nobody reads answers to “{subject}”',
		away: '{name} is away. {words}',
		awaySubject: '{name} is away',
		link: '{district}: your page, for a day: {link} If you did not ask for it, leave it.',
		linkSubject: 'Your page with {district}'
	},
	es: {
		stopped:
			'{district}: ya no llegan mensajes a este teléfono. START los reanuda. Por correo y en su página sigue recibiendo avisos.',
		started: '{district}: los mensajes vuelven a llegar a este teléfono. STOP los termina.',
		help: '{district}: mensajes de la escuela para las familias. Para escribirnos o elegir lo que recibe: {page} STOP termina los mensajes.',
		askTexts:
			'{district}: responda SÍ para recibir mensajes de la escuela en este teléfono. Si no lo pidió, no responda.',
		oneWay:
			'«{subject}» es un aviso: nadie lee las respuestas. Lo que escribió queda guardado. Para escribir a la escuela, abra su página: {link}',
		oneWaySubject: 'Nadie lee las respuestas a «{subject}»',
		away: '{name} no está. {words}',
		awaySubject: '{name} no está',
		link: '{district}: su página, por un día: {link} Si no la pidió, no haga nada.',
		linkSubject: 'Su página de {district}'
	},
	pt: {
		stopped:
			'{district}: este telefone já não recebe mensagens. START retoma-as. Por email e na sua página continua a ter notícias.',
		started: '{district}: este telefone volta a receber mensagens. STOP termina-as.',
		help: '{district}: mensagens da escola para as famílias. Para nos escrever ou escolher o que recebe: {page} STOP termina as mensagens.',
		askTexts:
			'{district}: responda SIM para receber mensagens da escola neste telefone. Se não pediu, não responda.',
		oneWay:
			'«{subject}» é um aviso: ninguém lê as respostas. O que escreveu fica guardado. Para escrever à escola, abra a sua página: {link}',
		oneWaySubject: 'Ninguém lê as respostas a «{subject}»',
		away: '{name} está ausente. {words}',
		awaySubject: '{name} está ausente',
		link: '{district}: a sua página, por um dia: {link} Se não a pediu, não faça nada.',
		linkSubject: 'A sua página em {district}'
	},
	vi: {
		stopped:
			'{district}: số này không nhận tin nhắn nữa. Gửi START để nhận lại. Quý vị vẫn nhận tin qua email và trên trang của mình.',
		started: '{district}: số này lại nhận tin nhắn. Gửi STOP để dừng.',
		help: '{district}: tin của trường gửi các gia đình. Để viết cho trường hoặc chọn cách nhận tin: {page} Gửi STOP để dừng.',
		askTexts:
			'{district}: trả lời CÓ để nhận tin nhắn của trường trên số này. Nếu quý vị không yêu cầu, xin đừng trả lời.',
		oneWay:
			'“{subject}” là thông báo: không ai đọc thư trả lời. Điều quý vị viết được lưu lại. Để viết cho trường, mở trang của quý vị: {link}',
		oneWaySubject: 'Không ai đọc thư trả lời cho “{subject}”',
		away: '{name} đang vắng mặt. {words}',
		awaySubject: '{name} đang vắng mặt',
		link: '{district}: trang của quý vị, trong một ngày: {link} Nếu quý vị không yêu cầu, xin bỏ qua.',
		linkSubject: 'Trang của quý vị tại {district}'
	},
	ar: {
		stopped:
			'{district}: لن تصل رسائل نصية إلى هذا الهاتف بعد الآن. أرسلوا START لتعود. تصلكم أخبارنا بالبريد وعلى صفحتكم.',
		started: '{district}: عادت الرسائل النصية إلى هذا الهاتف. STOP ينهيها.',
		help: '{district}: رسائل المدرسة إلى الأسر. للكتابة إلينا أو اختيار ما يصلكم: {page} STOP ينهي الرسائل.',
		askTexts:
			'{district}: أجيبوا بكلمة نعم لتصلكم رسائل المدرسة على هذا الهاتف. إن لم تطلبوا ذلك فلا تجيبوا.',
		oneWay:
			'«{subject}» إعلان ولا أحد يقرأ الردود عليه. ما كتبتموه محفوظ. للكتابة إلى المدرسة افتحوا صفحتكم: {link}',
		oneWaySubject: 'لا أحد يقرأ الردود على «{subject}»',
		away: '{name} خارج العمل. {words}',
		awaySubject: '{name} خارج العمل',
		link: '{district}: صفحتكم ليوم واحد: {link} إن لم تطلبوها فتجاهلوها.',
		linkSubject: 'صفحتكم لدى {district}'
	}
};

/** The words for a language, and its tag; English where there are none. */
export function talkPhrases(language: string): TalkPhrases & { readonly tag: string } {
	const { tag, words } = inLanguage(talkWords, [language]);
	return { ...words, tag };
}
