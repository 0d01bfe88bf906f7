import { inLanguage } from './language';

/** The fixed words of an invitation for whoever answers it from outside; `{subject}`, `{name}` and `{to}` are filled in. */
export interface GuestPhrases {
	/** The page for anybody. */
	readonly openLead: string;
	readonly name: string;
	readonly email: string;
	readonly asked: string;
	/** What is wrong there. */
	readonly noName: string;
	readonly noAddress: string;
	readonly wait: string;
	readonly noLinkHere: string;
	/** The letter to whoever answered there, and their own page. */
	readonly askSubject: string;
	readonly ask: string;
	readonly askPage: string;
	readonly confirm: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const guestWords: Readonly<Record<string, GuestPhrases>> = {
	en: {
		openLead:
			'Say whether you come. A letter to your address asks whether it was you; then your places are yours.',
		name: 'Your name',
		email: 'Your email address',
		asked:
			'A letter is on its way to {to}. Your places are yours once you have opened the link in it.',
		noName: 'Write your name first.',
		noAddress: 'That is no email address.',
		wait: 'That is enough for now. Try again in an hour, or ask the school office.',
		noLinkHere: 'This link leads nowhere any more. Ask whoever gave it to you.',
		askSubject: 'Was it you? “{subject}”',
		ask: 'Somebody has said with this address that {name} comes to “{subject}”. If it was you, open the page and say so there. If not, do nothing.',
		askPage: 'To your answer',
		confirm: 'It was me'
	},
	es: {
		openLead:
			'Diga si viene. Una carta a su dirección le pregunta si fue usted; después los lugares son suyos.',
		name: 'Su nombre',
		email: 'Su correo electrónico',
		asked: 'Una carta va en camino a {to}. Los lugares son suyos cuando haya abierto el enlace.',
		noName: 'Escriba primero su nombre.',
		noAddress: 'Eso no es un correo electrónico.',
		wait: 'Es suficiente por ahora. Inténtelo en una hora o pregunte en la oficina.',
		noLinkHere: 'Este enlace ya no lleva a ninguna parte. Pregunte a quien se lo dio.',
		askSubject: '¿Fue usted? «{subject}»',
		ask: 'Alguien ha dicho con esta dirección que {name} viene a «{subject}». Si fue usted, abra la página y dígalo allí. Si no, no haga nada.',
		askPage: 'A su respuesta',
		confirm: 'Fui yo'
	},
	pt: {
		openLead:
			'Diga se vem. Uma carta para o seu endereço pergunta se foi você; depois os lugares são seus.',
		name: 'O seu nome',
		email: 'O seu email',
		asked: 'Uma carta vai a caminho de {to}. Os lugares são seus quando abrir a ligação.',
		noName: 'Escreva primeiro o seu nome.',
		noAddress: 'Isso não é um email.',
		wait: 'Por agora chega. Tente daqui a uma hora ou pergunte na secretaria.',
		noLinkHere: 'Esta ligação já não leva a lado nenhum. Pergunte a quem lha deu.',
		askSubject: 'Foi você? «{subject}»',
		ask: 'Alguém disse com este endereço que {name} vem a «{subject}». Se foi você, abra a página e diga-o lá. Se não, não faça nada.',
		askPage: 'Para a sua resposta',
		confirm: 'Fui eu'
	},
	vi: {
		openLead:
			'Xin cho biết quý vị có đến không. Một thư gửi đến địa chỉ của quý vị sẽ hỏi có phải là quý vị; sau đó chỗ là của quý vị.',
		name: 'Tên của quý vị',
		email: 'Email của quý vị',
		asked: 'Một thư đang được gửi đến {to}. Chỗ là của quý vị sau khi mở liên kết trong thư.',
		noName: 'Xin viết tên trước.',
		noAddress: 'Đó không phải là email.',
		wait: 'Tạm thời đã đủ. Xin thử lại sau một giờ hoặc hỏi văn phòng trường.',
		noLinkHere: 'Liên kết này không còn dẫn đến đâu. Xin hỏi người đã đưa cho quý vị.',
		askSubject: 'Có phải quý vị không? “{subject}”',
		ask: 'Có người dùng địa chỉ này nói rằng {name} sẽ đến “{subject}”. Nếu là quý vị, xin mở trang và xác nhận. Nếu không, không cần làm gì.',
		askPage: 'Đến câu trả lời của quý vị',
		confirm: 'Đúng là tôi'
	},
	ar: {
		openLead: 'قولوا هل تحضرون. رسالة إلى عنوانكم تسأل هل كنتم أنتم؛ ثم تصبح الأماكن لكم.',
		name: 'اسمكم',
		email: 'بريدكم الإلكتروني',
		asked: 'رسالة في طريقها إلى {to}. تصبح الأماكن لكم بعد فتح الرابط فيها.',
		noName: 'اكتبوا اسمكم أولا.',
		noAddress: 'هذا ليس بريدا إلكترونيا.',
		wait: 'هذا يكفي الآن. حاولوا بعد ساعة أو اسألوا مكتب المدرسة.',
		noLinkHere: 'لم يعد هذا الرابط يؤدي إلى شيء. اسألوا من أعطاكم إياه.',
		askSubject: 'هل كنتم أنتم؟ «{subject}»',
		ask: 'قال أحد بهذا العنوان إن {name} يحضر «{subject}». إن كنتم أنتم فافتحوا الصفحة وقولوا ذلك هناك. وإلا فلا تفعلوا شيئا.',
		askPage: 'إلى ردكم',
		confirm: 'كنت أنا'
	}
};

/** The fixed words for somebody who wants one of some languages; English where there are none. `tag` is the language they are in. */
export const guestPhrases = (
	...wanted: readonly string[]
): GuestPhrases & { readonly tag: string } => {
	const { tag, words } = inLanguage(guestWords, wanted);
	return { ...words, tag };
};
