import { inLanguage } from './language';

/** The fixed words of the page on which a family chooses what it gets; `{from}`, `{to}`, `{zone}`, `{phone}` and `{what}` are filled in. */
export interface ChoicePhrases {
	readonly title: string;
	readonly urgent: string;
	readonly language: string;
	readonly languageMeans: string;
	readonly announcement: string;
	readonly message: string;
	readonly email: string;
	readonly inbox: string;
	readonly waysMean: string;
	readonly texts: string;
	readonly textsOn: string;
	readonly textsOff: string;
	readonly stopTexts: string;
	readonly startTexts: string;
	readonly textsAsked: string;
	readonly quiet: string;
	readonly from: string;
	readonly to: string;
	readonly quietMeans: string;
	/** The letters of a day in one. */
	readonly digest: string;
	readonly digestMeans: string;
	readonly digestShared: string;
	readonly digestQuiet: string;
	readonly zone: string;
	readonly zoneMeans: string;
	readonly save: string;
	readonly saved: string;
	readonly nothing: string;
	readonly wrong: string;
	readonly changes: string;
	readonly you: string;
	readonly school: string;
	readonly wanted: string;
	readonly notWanted: string;
	/** The link itself. */
	readonly notForMe: string;
	readonly notForMeMeans: string;
	readonly endLink: string;
	readonly ended: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const choiceWords: Readonly<Record<string, ChoicePhrases>> = {
	en: {
		title: 'What you get, and how',
		urgent:
			'An urgent message passes over these choices; the school writes down each time that it did.',
		language: 'Language',
		languageMeans: 'The next letter comes in it, where school has it in that language.',
		announcement: 'Announcements',
		message: 'Messages',
		email: 'by email',
		inbox: 'on this page',
		waysMean:
			'What is not ticked does not come that way. What has left already cannot be called back.',
		texts: 'Texts',
		textsOn: 'Texts come to {phone}.',
		textsOff: 'No texts come to {phone}.',
		stopTexts: 'Stop them',
		startTexts: 'Get texts there',
		textsAsked: 'We have sent a text to {phone}. Answer it with YES from that phone.',
		quiet: 'Quiet hours of your own',
		from: 'from',
		to: 'until',
		quietMeans:
			'Nothing ordinary comes then; it waits until they end. The school’s own hold as well: texts {from} to {to}.',
		digest: 'One letter a day',
		digestMeans:
			'The ordinary letters of a day come by email in one, at this time. Empty: each comes by itself. Urgent ones come at once, and so does what would be too late by then. Texts and this page stay as they are.',
		digestShared:
			'Others read at your mail address too: what goes there for all of you comes in one only where each of you has chosen it.',
		digestQuiet:
			'One letter a day cannot come in your own quiet hours. Choose another time, or change the quiet hours.',
		zone: 'Time zone',
		zoneMeans: 'Empty for the school’s: {zone}.',
		save: 'Save',
		saved: 'Saved. It holds for everything that has not left yet.',
		nothing: 'Nothing was changed.',
		wrong: 'That could not be read. Look at the times and the zone.',
		changes: 'The last changes',
		you: 'you',
		school: 'the school',
		wanted: '{what}: wanted again',
		notWanted: '{what}: not wanted any more',
		notForMe: 'This is not for me',
		notForMeMeans:
			'If these letters are not yours: the link opens nothing any more, and the school office is told.',
		endLink: 'End this link',
		ended: 'The link has ended. Thank you.'
	},
	es: {
		title: 'Qué recibe y cómo',
		urgent: 'Un mensaje urgente pasa por encima de esto; la escuela anota cada vez que ocurre.',
		language: 'Idioma',
		languageMeans: 'La próxima carta llega en él, si la escuela la tiene en ese idioma.',
		announcement: 'Avisos',
		message: 'Mensajes',
		email: 'por correo',
		inbox: 'en esta página',
		waysMean: 'Lo que no está marcado no llega por ahí. Lo que ya salió no se puede retirar.',
		texts: 'Mensajes de texto',
		textsOn: 'Llegan a {phone}.',
		textsOff: 'No llegan a {phone}.',
		stopTexts: 'Detenerlos',
		startTexts: 'Recibirlos ahí',
		textsAsked: 'Enviamos un mensaje a {phone}. Respóndalo con SÍ desde ese teléfono.',
		quiet: 'Sus horas de silencio',
		from: 'desde',
		to: 'hasta',
		quietMeans:
			'Entonces no llega nada ordinario; espera a que terminen. También valen las de la escuela: textos de {from} a {to}.',
		digest: 'Una carta al día',
		digestMeans:
			'Las cartas ordinarias del día llegan por correo en una, a esta hora. Vacío: cada una llega sola. Las urgentes llegan enseguida, y también lo que entonces llegaría tarde. Los textos y esta página siguen igual.',
		digestShared:
			'Otras personas leen también en su dirección: lo que llega ahí para todos viene en una solo si cada quien lo eligió.',
		digestQuiet:
			'La carta del día no puede llegar en sus horas de silencio. Elija otra hora o cambie las horas de silencio.',
		zone: 'Zona horaria',
		zoneMeans: 'Vacío para la de la escuela: {zone}.',
		save: 'Guardar',
		saved: 'Guardado. Vale para todo lo que aún no ha salido.',
		nothing: 'No se cambió nada.',
		wrong: 'No se pudo leer. Revise las horas y la zona.',
		changes: 'Los últimos cambios',
		you: 'usted',
		school: 'la escuela',
		wanted: '{what}: otra vez sí',
		notWanted: '{what}: ya no',
		notForMe: 'Esto no es para mí',
		notForMeMeans: 'Si estas cartas no son suyas: el enlace ya no abre nada y la oficina lo sabe.',
		endLink: 'Terminar este enlace',
		ended: 'El enlace ha terminado. Gracias.'
	},
	pt: {
		title: 'O que recebe e como',
		urgent: 'Uma mensagem urgente passa por cima disto; a escola anota cada vez que acontece.',
		language: 'Língua',
		languageMeans: 'A próxima carta vem nela, se a escola a tiver nessa língua.',
		announcement: 'Avisos',
		message: 'Mensagens',
		email: 'por email',
		inbox: 'nesta página',
		waysMean: 'O que não está marcado não vem por aí. O que já saiu não se pode chamar de volta.',
		texts: 'Mensagens de texto',
		textsOn: 'Chegam a {phone}.',
		textsOff: 'Não chegam a {phone}.',
		stopTexts: 'Parar',
		startTexts: 'Receber aí',
		textsAsked: 'Enviámos uma mensagem para {phone}. Responda SIM desse telefone.',
		quiet: 'As suas horas de silêncio',
		from: 'das',
		to: 'às',
		quietMeans:
			'Nessas horas não vem nada de ordinário; espera que acabem. Valem também as da escola: mensagens das {from} às {to}.',
		digest: 'Uma carta por dia',
		digestMeans:
			'As cartas normais do dia chegam por correio eletrónico numa só, a esta hora. Vazio: cada uma chega sozinha. As urgentes chegam logo, e também o que então chegaria tarde. As mensagens de texto e esta página ficam como estão.',
		digestShared:
			'Outras pessoas também leem no seu endereço: o que lá chega para todos vem numa só apenas se cada uma o escolheu.',
		digestQuiet:
			'A carta do dia não pode chegar nas suas horas de silêncio. Escolha outra hora ou mude as horas de silêncio.',
		zone: 'Fuso horário',
		zoneMeans: 'Vazio para o da escola: {zone}.',
		save: 'Guardar',
		saved: 'Guardado. Vale para tudo o que ainda não saiu.',
		nothing: 'Nada mudou.',
		wrong: 'Não se conseguiu ler. Veja as horas e o fuso.',
		changes: 'As últimas mudanças',
		you: 'você',
		school: 'a escola',
		wanted: '{what}: outra vez sim',
		notWanted: '{what}: já não',
		notForMe: 'Isto não é para mim',
		notForMeMeans:
			'Se estas cartas não são suas: a ligação deixa de abrir e a secretaria fica a saber.',
		endLink: 'Terminar esta ligação',
		ended: 'A ligação terminou. Obrigado.'
	},
	vi: {
		title: 'Quý vị nhận gì và bằng cách nào',
		urgent: 'Tin khẩn vượt qua các lựa chọn này; trường ghi lại mỗi lần như vậy.',
		language: 'Ngôn ngữ',
		languageMeans: 'Thư sau sẽ bằng ngôn ngữ này, nếu trường có bản dịch.',
		announcement: 'Thông báo',
		message: 'Tin nhắn',
		email: 'qua email',
		inbox: 'trên trang này',
		waysMean: 'Mục không đánh dấu sẽ không đến theo cách đó. Thư đã gửi không thể thu hồi.',
		texts: 'Tin nhắn điện thoại',
		textsOn: 'Tin đến số {phone}.',
		textsOff: 'Không có tin đến số {phone}.',
		stopTexts: 'Dừng',
		startTexts: 'Nhận tin ở số này',
		textsAsked: 'Chúng tôi đã gửi tin đến {phone}. Xin trả lời CÓ từ điện thoại đó.',
		quiet: 'Giờ yên tĩnh của quý vị',
		from: 'từ',
		to: 'đến',
		quietMeans:
			'Trong giờ này không có tin thường; tin đợi đến khi hết giờ. Giờ của trường vẫn áp dụng: tin nhắn {from} đến {to}.',
		digest: 'Một thư mỗi ngày',
		digestMeans:
			'Các thư thường trong ngày được gửi qua email gộp thành một, vào giờ này. Để trống: mỗi thư đến riêng. Thư khẩn đến ngay, và thư nào để đến lúc đó thì quá muộn cũng vậy. Tin nhắn và trang này vẫn như cũ.',
		digestShared:
			'Có người khác cũng đọc ở địa chỉ email của quý vị: thư gửi chung đến đó chỉ được gộp khi mỗi người đều đã chọn như vậy.',
		digestQuiet:
			'Thư trong ngày không thể đến trong giờ yên tĩnh của quý vị. Hãy chọn giờ khác hoặc đổi giờ yên tĩnh.',
		zone: 'Múi giờ',
		zoneMeans: 'Để trống nếu theo giờ của trường: {zone}.',
		save: 'Lưu',
		saved: 'Đã lưu. Áp dụng cho mọi thư chưa gửi.',
		nothing: 'Không có gì thay đổi.',
		wrong: 'Không đọc được. Xin xem lại giờ và múi giờ.',
		changes: 'Những thay đổi gần đây',
		you: 'quý vị',
		school: 'trường',
		wanted: '{what}: nhận lại',
		notWanted: '{what}: không nhận nữa',
		notForMe: 'Thư này không phải cho tôi',
		notForMeMeans:
			'Nếu các thư này không phải của quý vị: liên kết sẽ không mở gì nữa và văn phòng được báo.',
		endLink: 'Kết thúc liên kết này',
		ended: 'Liên kết đã kết thúc. Xin cảm ơn.'
	},
	ar: {
		title: 'ما يصلكم وكيف',
		urgent: 'الرسالة العاجلة تتجاوز هذه الاختيارات، وتدوّن المدرسة ذلك في كل مرة.',
		language: 'اللغة',
		languageMeans: 'تصل الرسالة التالية بها إن توفرت لدى المدرسة.',
		announcement: 'الإعلانات',
		message: 'الرسائل',
		email: 'بالبريد الإلكتروني',
		inbox: 'على هذه الصفحة',
		waysMean: 'ما لم يُحدد لا يصل بهذه الطريقة. ما خرج لا يمكن استرجاعه.',
		texts: 'الرسائل النصية',
		textsOn: 'تصل إلى {phone}.',
		textsOff: 'لا تصل إلى {phone}.',
		stopTexts: 'إيقافها',
		startTexts: 'استلامها هناك',
		textsAsked: 'أرسلنا رسالة إلى {phone}. أجيبوا عنها بكلمة نعم من ذلك الهاتف.',
		quiet: 'ساعات الهدوء الخاصة بكم',
		from: 'من',
		to: 'إلى',
		quietMeans:
			'لا يصل فيها شيء عادي، بل ينتظر حتى تنتهي. وتسري ساعات المدرسة أيضا: الرسائل النصية {from} إلى {to}.',
		digest: 'رسالة واحدة في اليوم',
		digestMeans:
			'تصل رسائل اليوم العادية بالبريد الإلكتروني في رسالة واحدة في هذا الوقت. إن تُرك فارغا تصل كل رسالة وحدها. العاجلة تصل فورا، وكذلك ما يفوت أوانه حتى ذلك الوقت. الرسائل النصية وهذه الصفحة تبقى كما هي.',
		digestShared:
			'يقرأ آخرون أيضا في عنوان بريدكم: ما يصل إليه لكم جميعا لا يُجمع في رسالة واحدة إلا إذا اختار كل منكم ذلك.',
		digestQuiet:
			'لا يمكن أن تصل رسالة اليوم في ساعات هدوئكم. اختاروا وقتا آخر أو غيروا ساعات الهدوء.',
		zone: 'المنطقة الزمنية',
		zoneMeans: 'فارغة لمنطقة المدرسة: {zone}.',
		save: 'حفظ',
		saved: 'حُفظ. يسري على كل ما لم يخرج بعد.',
		nothing: 'لم يتغير شيء.',
		wrong: 'تعذرت القراءة. راجعوا الأوقات والمنطقة.',
		changes: 'آخر التغييرات',
		you: 'أنتم',
		school: 'المدرسة',
		wanted: '{what}: مطلوب من جديد',
		notWanted: '{what}: غير مطلوب بعد الآن',
		notForMe: 'هذا ليس لي',
		notForMeMeans: 'إن لم تكن هذه الرسائل لكم: لن يفتح الرابط شيئا بعد الآن، ويُبلَّغ مكتب المدرسة.',
		endLink: 'إنهاء هذا الرابط',
		ended: 'انتهى الرابط. شكرا.'
	}
};

/** The words of the page of choices in a language; English where there are none. */
export const choicePhrases = (language: string): ChoicePhrases =>
	inLanguage(choiceWords, [language]).words;
