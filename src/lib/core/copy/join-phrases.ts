import { inLanguage } from './language';

/**
 * What is said to whoever joins an open group: on the sheet, by text and mail, on the page. `{group}`,
 * `{district}`, `{name}`, `{code}` and `{to}` are filled in.
 */
export interface JoinPhrases {
	/** On the sheet and the screen, over the ways. */
	readonly title: string;
	readonly byText: string;
	readonly byMail: string;
	readonly byLink: string;
	readonly then: string;
	/** Before the last day on which one can join. */
	readonly until: string;
	/** Texts. */
	readonly askName: string;
	readonly askCode: string;
	readonly welcome: string;
	readonly removed: string;
	readonly over: string;
	/** Letters. */
	readonly askSubject: string;
	readonly ask: string;
	readonly inviteSubject: string;
	readonly invite: string;
	readonly welcomeSubject: string;
	readonly welcomeMail: string;
	readonly page: string;
	/** The page. */
	readonly code: string;
	readonly find: string;
	readonly name: string;
	readonly student: string;
	readonly way: string;
	readonly email: string;
	readonly phone: string;
	readonly language: string;
	readonly join: string;
	readonly asked: string;
	readonly leave: string;
	readonly left: string;
	readonly notForMe: string;
	/** What is wrong. */
	readonly noName: string;
	readonly noAddress: string;
	readonly noCode: string;
	readonly wait: string;
	readonly ended: string;
}

export const joinWords: Readonly<Record<string, JoinPhrases>> = {
	en: {
		title: 'Join {group}',
		byText: 'Text this code to this number',
		byMail: 'Or send a letter to this address; it may be empty',
		byLink: 'Or open this page: point the camera of a phone at the square',
		then: 'You are asked for your name. Nothing else is sent to you before you have answered.',
		until: 'Until',
		askName:
			'{group}, {district}: to get texts from school, answer with your name. If it is for a student, add a comma and their name. STOP ends it.',
		askCode:
			'{group}, {district}: to join as {name} and get texts from school, answer {code}. If you did not ask, do nothing.',
		welcome: '{group}, {district}: you are in, {name}. STOP ends it.',
		removed: '{group}, {district}: the school took this number out. Ask its office to let you in.',
		over: '{group}, {district}: nobody can join any more.',
		askSubject: 'Join {group}?',
		ask: 'Somebody asked for {group} to be sent to this address. If it was you, open this page, say your name and join. If not, do nothing: no more is sent.',
		inviteSubject: 'An invitation to {group}',
		invite:
			'{district} invites you to {group}. If you want to get what is sent to it, open this page, say your name and join. If not, do nothing.',
		welcomeSubject: 'You are in {group}',
		welcomeMail:
			'What is sent to {group} comes to this address from now on. You can leave on this page.',
		page: 'Open the page',
		code: 'The code',
		find: 'Go on',
		name: 'Your name',
		student: 'The student it is for, if there is one',
		way: 'How should it come?',
		email: 'Email address',
		phone: 'Number for texts',
		language: 'Language',
		join: 'Join',
		asked:
			'We have written to {to}. Answer that, and you are in. If nothing comes, ask whoever gave you the code.',
		leave: 'Leave {group}',
		left: 'You are not in {group}. Nothing of it is sent to you.',
		notForMe: 'Not for me',
		noName: 'Write your name, in letters.',
		noAddress: 'This is no address or number that can be written to. Look at it once more.',
		noCode: 'There is no group with this code. Look at it once more.',
		wait: 'There were too many tries. Wait a while, then try again.',
		ended: 'Nobody can join {group} any more.'
	},
	es: {
		title: 'Unirse a {group}',
		byText: 'Envíe este código por mensaje de texto a este número',
		byMail: 'O escriba a esta dirección; la carta puede ir vacía',
		byLink: 'O abra esta página: apunte la cámara de un teléfono al cuadrado',
		then: 'Se le pregunta su nombre. No se le envía nada más antes de que haya contestado.',
		until: 'Hasta',
		askName:
			'{group}, {district}: para recibir textos de la escuela, conteste con su nombre. Si es por un alumno, añada una coma y su nombre. STOP lo termina.',
		askCode:
			'{group}, {district}: para unirse como {name} y recibir textos de la escuela, conteste {code}. Si no lo pidió, no haga nada.',
		welcome: '{group}, {district}: ya forma parte, {name}. STOP lo termina.',
		removed: '{group}, {district}: la escuela retiró este número. Pida a su oficina que lo admita.',
		over: '{group}, {district}: ya nadie puede unirse.',
		askSubject: '¿Unirse a {group}?',
		ask: 'Alguien pidió que lo de {group} se envíe a esta dirección. Si fue usted, abra esta página, diga su nombre y únase. Si no, no haga nada: no se envía nada más.',
		inviteSubject: 'Una invitación a {group}',
		invite:
			'{district} le invita a {group}. Si quiere recibir lo que se le envía, abra esta página, diga su nombre y únase. Si no, no haga nada.',
		welcomeSubject: 'Ya forma parte de {group}',
		welcomeMail:
			'Lo que se envía a {group} llega desde ahora a esta dirección. En esta página puede salir.',
		page: 'Abrir la página',
		code: 'El código',
		find: 'Seguir',
		name: 'Su nombre',
		student: 'El alumno por quien es, si lo hay',
		way: '¿Cómo debe llegar?',
		email: 'Dirección de correo',
		phone: 'Número para textos',
		language: 'Idioma',
		join: 'Unirse',
		asked:
			'Hemos escrito a {to}. Conteste eso y ya forma parte. Si no llega nada, pregunte a quien le dio el código.',
		leave: 'Salir de {group}',
		left: 'No forma parte de {group}. No se le envía nada de él.',
		notForMe: 'No es para mí',
		noName: 'Escriba su nombre, con letras.',
		noAddress: 'A esta dirección o número no se puede escribir. Mírelo otra vez.',
		noCode: 'No hay ningún grupo con este código. Mírelo otra vez.',
		wait: 'Hubo demasiados intentos. Espere un rato y vuelva a intentarlo.',
		ended: 'Ya nadie puede unirse a {group}.'
	},
	pt: {
		title: 'Entrar em {group}',
		byText: 'Envie este código por SMS para este número',
		byMail: 'Ou escreva para este endereço; a carta pode ir vazia',
		byLink: 'Ou abra esta página: aponte a câmara de um telefone para o quadrado',
		then: 'É-lhe perguntado o nome. Nada mais lhe é enviado antes de responder.',
		until: 'Até',
		askName:
			'{group}, {district}: para receber SMS da escola, responda com o seu nome. Se for por um aluno, junte uma vírgula e o nome dele. STOP termina.',
		askCode:
			'{group}, {district}: para entrar como {name} e receber SMS da escola, responda {code}. Se não pediu, não faça nada.',
		welcome: '{group}, {district}: já faz parte, {name}. STOP termina.',
		removed:
			'{group}, {district}: a escola retirou este número. Peça à secretaria que o deixe entrar.',
		over: '{group}, {district}: já ninguém pode entrar.',
		askSubject: 'Entrar em {group}?',
		ask: 'Alguém pediu que o que é de {group} fosse enviado para este endereço. Se foi a própria pessoa, abra esta página, diga o seu nome e entre. Se não, não faça nada: nada mais é enviado.',
		inviteSubject: 'Um convite para {group}',
		invite:
			'{district} convida-o para {group}. Se quer receber o que lhe é enviado, abra esta página, diga o seu nome e entre. Se não, não faça nada.',
		welcomeSubject: 'Já faz parte de {group}',
		welcomeMail:
			'O que é enviado a {group} chega a partir de agora a este endereço. Nesta página pode sair.',
		page: 'Abrir a página',
		code: 'O código',
		find: 'Continuar',
		name: 'O seu nome',
		student: 'O aluno por quem é, se houver',
		way: 'Como deve chegar?',
		email: 'Endereço de email',
		phone: 'Número para SMS',
		language: 'Língua',
		join: 'Entrar',
		asked:
			'Escrevemos para {to}. Responda a isso e já faz parte. Se nada chegar, pergunte a quem lhe deu o código.',
		leave: 'Sair de {group}',
		left: 'Não faz parte de {group}. Nada dele lhe é enviado.',
		notForMe: 'Não é para mim',
		noName: 'Escreva o seu nome, com letras.',
		noAddress: 'Para este endereço ou número não se pode escrever. Veja-o outra vez.',
		noCode: 'Não há nenhum grupo com este código. Veja-o outra vez.',
		wait: 'Houve demasiadas tentativas. Espere um pouco e tente de novo.',
		ended: 'Já ninguém pode entrar em {group}.'
	},
	vi: {
		title: 'Tham gia {group}',
		byText: 'Nhắn mã này đến số này',
		byMail: 'Hoặc gửi thư đến địa chỉ này; thư có thể để trống',
		byLink: 'Hoặc mở trang này: hướng máy ảnh của điện thoại vào ô vuông',
		then: 'Quý vị sẽ được hỏi tên. Không có gì khác được gửi trước khi quý vị trả lời.',
		until: 'Đến',
		askName:
			'{group}, {district}: để nhận tin nhắn của trường, trả lời bằng tên quý vị. Nếu là cho một học sinh, thêm dấu phẩy và tên em. STOP để dừng.',
		askCode:
			'{group}, {district}: để tham gia với tên {name} và nhận tin nhắn của trường, trả lời {code}. Nếu quý vị không yêu cầu, xin bỏ qua.',
		welcome: '{group}, {district}: quý vị đã tham gia, {name}. STOP để dừng.',
		removed: '{group}, {district}: trường đã đưa số này ra. Xin hỏi văn phòng để được vào lại.',
		over: '{group}, {district}: không còn nhận người tham gia.',
		askSubject: 'Tham gia {group}?',
		ask: 'Có người yêu cầu gửi tin của {group} đến địa chỉ này. Nếu là quý vị, mở trang này, cho biết tên và tham gia. Nếu không, xin bỏ qua: sẽ không gửi gì thêm.',
		inviteSubject: 'Lời mời vào {group}',
		invite:
			'{district} mời quý vị vào {group}. Nếu muốn nhận những gì được gửi cho nhóm, mở trang này, cho biết tên và tham gia. Nếu không, xin bỏ qua.',
		welcomeSubject: 'Quý vị đã ở trong {group}',
		welcomeMail:
			'Từ nay những gì gửi cho {group} sẽ đến địa chỉ này. Quý vị có thể ra khỏi nhóm ở trang này.',
		page: 'Mở trang',
		code: 'Mã',
		find: 'Tiếp tục',
		name: 'Tên quý vị',
		student: 'Học sinh liên quan, nếu có',
		way: 'Gửi bằng cách nào?',
		email: 'Địa chỉ email',
		phone: 'Số nhận tin nhắn',
		language: 'Ngôn ngữ',
		join: 'Tham gia',
		asked:
			'Chúng tôi đã gửi đến {to}. Trả lời tin đó là quý vị đã tham gia. Nếu không nhận được gì, hỏi người đã đưa mã.',
		leave: 'Ra khỏi {group}',
		left: 'Quý vị không ở trong {group}. Không có gì của nhóm được gửi cho quý vị.',
		notForMe: 'Không phải cho tôi',
		noName: 'Viết tên quý vị, bằng chữ.',
		noAddress: 'Không thể gửi đến địa chỉ hoặc số này. Xin xem lại.',
		noCode: 'Không có nhóm nào với mã này. Xin xem lại.',
		wait: 'Đã thử quá nhiều lần. Chờ một lúc rồi thử lại.',
		ended: 'Không thể tham gia {group} nữa.'
	},
	ar: {
		title: 'الانضمام إلى {group}',
		byText: 'أرسلوا هذا الرمز في رسالة نصية إلى هذا الرقم',
		byMail: 'أو اكتبوا إلى هذا العنوان ويمكن أن تكون الرسالة فارغة',
		byLink: 'أو افتحوا هذه الصفحة بتوجيه كاميرا الهاتف نحو المربع',
		then: 'تُسألون عن اسمكم ولا يُرسل إليكم شيء آخر قبل أن تجيبوا',
		until: 'حتى',
		askName:
			'{group}، {district}: لتلقي رسائل نصية من المدرسة أجيبوا باسمكم. وإذا كان الأمر يخص طالبًا فأضيفوا فاصلة واسمه. STOP لإنهاء ذلك.',
		askCode:
			'{group}، {district}: للانضمام باسم {name} وتلقي رسائل نصية من المدرسة أجيبوا {code}. إذا لم تطلبوا ذلك فلا تفعلوا شيئًا.',
		welcome: '{group}، {district}: لقد انضممتم، {name}. STOP لإنهاء ذلك.',
		removed: '{group}، {district}: أخرجت المدرسة هذا الرقم. اطلبوا من مكتبها السماح لكم بالدخول.',
		over: '{group}، {district}: لم يعد بإمكان أحد الانضمام.',
		askSubject: 'الانضمام إلى {group}؟',
		ask: 'طلب شخص ما إرسال ما يخص {group} إلى هذا العنوان. إذا كنتم أنتم فافتحوا هذه الصفحة واكتبوا اسمكم وانضموا. وإلا فلا تفعلوا شيئًا ولن يُرسل المزيد.',
		inviteSubject: 'دعوة إلى {group}',
		invite:
			'تدعوكم {district} إلى {group}. إذا أردتم تلقي ما يُرسل إليها فافتحوا هذه الصفحة واكتبوا اسمكم وانضموا. وإلا فلا تفعلوا شيئًا.',
		welcomeSubject: 'أنتم في {group}',
		welcomeMail: 'ما يُرسل إلى {group} يصل من الآن إلى هذا العنوان. يمكنكم الخروج في هذه الصفحة.',
		page: 'افتح الصفحة',
		code: 'الرمز',
		find: 'متابعة',
		name: 'اسمكم',
		student: 'الطالب المعني إن وُجد',
		way: 'كيف يصلكم؟',
		email: 'عنوان البريد الإلكتروني',
		phone: 'رقم للرسائل النصية',
		language: 'اللغة',
		join: 'انضمام',
		asked: 'كتبنا إلى {to}. أجيبوا على ذلك فتنضموا. إذا لم يصل شيء فاسألوا من أعطاكم الرمز.',
		leave: 'الخروج من {group}',
		left: 'لستم في {group}. لا يُرسل إليكم شيء منها.',
		notForMe: 'ليس لي',
		noName: 'اكتبوا اسمكم بالحروف.',
		noAddress: 'لا يمكن الكتابة إلى هذا العنوان أو الرقم. انظروا إليه مرة أخرى.',
		noCode: 'لا توجد مجموعة بهذا الرمز. انظروا إليه مرة أخرى.',
		wait: 'محاولات كثيرة جدًا. انتظروا قليلًا ثم حاولوا مرة أخرى.',
		ended: 'لم يعد بإمكان أحد الانضمام إلى {group}.'
	}
};

/** The languages in which it can be said. */
export const joinLanguages: readonly string[] = Object.keys(joinWords);

/** The words in the nearest language there is (RFC 4647 section 3.4), and its tag; English where there is none. */
export function joinPhrases(
	wanted: string | readonly string[]
): JoinPhrases & { readonly tag: string } {
	const { tag, words } = inLanguage(joinWords, [wanted].flat());
	return { ...words, tag };
}
