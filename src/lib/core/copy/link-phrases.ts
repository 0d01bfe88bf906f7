import { inLanguage } from './language';

/** The fixed words of the page on which a family asks for a link to its own page. */
export interface LinkPhrases {
	readonly title: string;
	readonly lead: string;
	readonly address: string;
	readonly send: string;
	/** The same whether anybody reads at that address. */
	readonly sent: string;
	readonly wrong: string;
	readonly wait: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const linkPhrases: Readonly<Record<string, LinkPhrases & { readonly name: string }>> = {
	en: {
		name: 'English',
		title: 'To your letters from school',
		lead: 'No password: we send a link to the mailbox or phone that school has on file for you. It opens your page for a day.',
		address: 'Your email address or phone number',
		send: 'Send the link',
		sent: 'If school has this address on file, a link is on its way. If none comes within a few minutes, ask the school office.',
		wrong: 'That is neither an email address nor a phone number.',
		wait: 'That is enough for now. Try again in an hour, or ask the school office.'
	},
	es: {
		name: 'Español',
		title: 'A sus cartas de la escuela',
		lead: 'Sin contraseña: enviamos un enlace al correo o teléfono que la escuela tiene de usted. Abre su página durante un día.',
		address: 'Su correo o número de teléfono',
		send: 'Enviar el enlace',
		sent: 'Si la escuela tiene esta dirección, el enlace va en camino. Si no llega en unos minutos, pregunte en la oficina.',
		wrong: 'Eso no es un correo ni un teléfono.',
		wait: 'Es suficiente por ahora. Inténtelo en una hora o pregunte en la oficina.'
	},
	pt: {
		name: 'Português',
		title: 'Às suas cartas da escola',
		lead: 'Sem palavra-passe: enviamos uma ligação para o email ou telefone que a escola tem de si. Abre a sua página por um dia.',
		address: 'O seu email ou número de telefone',
		send: 'Enviar a ligação',
		sent: 'Se a escola tiver este endereço, a ligação vai a caminho. Se não chegar em poucos minutos, pergunte na secretaria.',
		wrong: 'Isso não é um email nem um telefone.',
		wait: 'Por agora chega. Tente daqui a uma hora ou pergunte na secretaria.'
	},
	vi: {
		name: 'Tiếng Việt',
		title: 'Đến các thư từ trường',
		lead: 'Không cần mật khẩu: chúng tôi gửi liên kết đến email hoặc số điện thoại trường có của quý vị. Liên kết mở trang của quý vị trong một ngày.',
		address: 'Email hoặc số điện thoại của quý vị',
		send: 'Gửi liên kết',
		sent: 'Nếu trường có địa chỉ này, liên kết đang được gửi. Nếu vài phút nữa chưa thấy, xin hỏi văn phòng trường.',
		wrong: 'Đó không phải email hay số điện thoại.',
		wait: 'Tạm thời đã đủ. Xin thử lại sau một giờ hoặc hỏi văn phòng trường.'
	},
	ar: {
		name: 'العربية',
		title: 'إلى رسائلكم من المدرسة',
		lead: 'بلا كلمة مرور: نرسل رابطا إلى البريد أو الهاتف المسجل لدى المدرسة. يفتح صفحتكم ليوم واحد.',
		address: 'بريدكم الإلكتروني أو رقم هاتفكم',
		send: 'إرسال الرابط',
		sent: 'إن كان هذا العنوان مسجلا لدى المدرسة فالرابط في طريقه. إن لم يصل خلال دقائق فاسألوا مكتب المدرسة.',
		wrong: 'هذا ليس بريدا ولا رقم هاتف.',
		wait: 'هذا يكفي الآن. حاولوا بعد ساعة أو اسألوا مكتب المدرسة.'
	}
};

/** The tag under which words for one of some wanted languages are found; English where there are none. */
export const linkLanguage = (wanted: readonly string[]): string =>
	inLanguage(linkPhrases, wanted).tag;
