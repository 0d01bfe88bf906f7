import { inLanguage } from './language';

/** The fixed words of an invitation for those who are asked; `{subject}`, `{name}`, `{time}`, `{slot}`, `{link}` and `{n}` are filled in. */
export interface ComingPhrases {
	/** Above the answers. */
	readonly question: string;
	readonly yes: string;
	readonly no: string;
	/** How many come; and which of the times. */
	readonly adults: string;
	readonly students: string;
	readonly time: string;
	/** Until when; `{time}` is day and time. */
	readonly until: string;
	readonly over: string;
	/** Beside a time, and over all; `{n}` is a number. */
	readonly left: string;
	readonly none: string;
	/** What holds now: `{n}` places, `{slot}` a time. */
	readonly have: string;
	readonly haveAt: string;
	readonly first: string;
	readonly line: string;
	readonly notComing: string;
	/** Where somebody else of the household has answered. */
	readonly by: string;
	readonly change: string;
	/** Why an answer was not taken. */
	readonly noRoom: string;
	readonly noSlot: string;
	readonly noPeople: string;
	readonly tooMany: string;
	readonly closed: string;
	readonly gone: string;
	readonly tooOften: string;
	/** Below a text. */
	readonly byText: string;
	/** In a letter, beside the yes: each leads to the page, where it is said. */
	readonly noLink: string;
	/** Said by itself, by text and in letters; `{slot}` is empty, or begins with a comma. */
	readonly taken: string;
	readonly takenLine: string;
	readonly takenNot: string;
	readonly up: string;
	readonly upSubject: string;
	readonly choose: string;
}

/** In each language; whether a speaker has checked them is the district's to say. */
export const comingWords: Readonly<Record<string, ComingPhrases>> = {
	en: {
		question: 'Are you coming?',
		yes: 'Yes, we come',
		no: 'No',
		adults: 'Adults',
		students: 'Students',
		time: 'Which time',
		until: 'Answer until {time}.',
		over: 'Answers were taken until {time}.',
		left: 'Places left: {n}',
		none: 'No places left: you would stand in line.',
		have: 'You come. Your places: {n}.',
		haveAt: 'You come: {slot}. Your places: {n}.',
		first: 'You are next in line; as soon as there are places, you are told.',
		line: 'You stand in line, with {n} before you; as soon as there are places, you are told.',
		notComing: 'You said that you do not come.',
		by: '{name} answered for your home.',
		change: 'Change the answer',
		noRoom: 'There are not as many places for that. You keep what you had.',
		noSlot: 'Choose a time first.',
		noPeople: 'Say how many of you come.',
		tooMany: '{n} at most can come together. For more, call the school office.',
		closed: 'It can be answered no longer. Call the school office.',
		gone: 'This invitation is not there any more. Load the page again.',
		tooOften: 'That is more than can be taken in an hour. Call the school office.',
		byText: 'Coming? Text back YES and how many, or NO.',
		noLink: 'No, we do not',
		taken: '“{subject}”: you come{slot}, places: {n}. To change it: {link}',
		takenLine:
			'“{subject}”: no places left{slot}. You stand in line, with {n} before you, and are told. To change it: {link}',
		takenNot: '“{subject}”: you do not come. To change it: {link}',
		up: '“{subject}”: places have come free{slot}, and they are yours: {n}. If you do not come any more, say so here: {link}',
		upSubject: 'Your places at “{subject}”',
		choose: '“{subject}”: choose your time here: {link}'
	},
	es: {
		question: '¿Viene?',
		yes: 'Sí, venimos',
		no: 'No',
		adults: 'Adultos',
		students: 'Estudiantes',
		time: 'A qué hora',
		until: 'Responda hasta {time}.',
		over: 'Se podía responder hasta {time}.',
		left: 'Lugares libres: {n}',
		none: 'No quedan lugares: estaría en la lista de espera.',
		have: 'Viene. Sus lugares: {n}.',
		haveAt: 'Viene: {slot}. Sus lugares: {n}.',
		first: 'Es el siguiente en la lista de espera; en cuanto haya lugares se lo diremos.',
		line: 'Está en la lista de espera, con {n} delante; en cuanto haya lugares se lo diremos.',
		notComing: 'Dijo que no viene.',
		by: '{name} respondió por su hogar.',
		change: 'Cambiar la respuesta',
		noRoom: 'No hay tantos lugares para eso. Conserva los que tenía.',
		noSlot: 'Elija primero una hora.',
		noPeople: 'Diga cuántos vienen.',
		tooMany: 'Pueden venir juntos {n} como máximo. Para más, llame a la oficina de la escuela.',
		closed: 'Ya no se puede responder. Llame a la oficina de la escuela.',
		gone: 'Esta invitación ya no está. Cargue la página de nuevo.',
		tooOften: 'Es más de lo que se puede recibir en una hora. Llame a la oficina de la escuela.',
		byText: '¿Viene? Responda SÍ y cuántos, o NO.',
		noLink: 'No venimos',
		taken: '«{subject}»: viene{slot}, lugares: {n}. Para cambiarlo: {link}',
		takenLine:
			'«{subject}»: no quedan lugares{slot}. Está en la lista de espera, con {n} delante, y le avisaremos. Para cambiarlo: {link}',
		takenNot: '«{subject}»: no viene. Para cambiarlo: {link}',
		up: '«{subject}»: se han liberado lugares{slot} y son suyos: {n}. Si ya no viene, dígalo aquí: {link}',
		upSubject: 'Sus lugares en «{subject}»',
		choose: '«{subject}»: elija su hora aquí: {link}'
	},
	pt: {
		question: 'Vem?',
		yes: 'Sim, vimos',
		no: 'Não',
		adults: 'Adultos',
		students: 'Alunos',
		time: 'A que horas',
		until: 'Responda até {time}.',
		over: 'Podia responder-se até {time}.',
		left: 'Lugares livres: {n}',
		none: 'Já não há lugares: ficaria na lista de espera.',
		have: 'Vem. Os seus lugares: {n}.',
		haveAt: 'Vem: {slot}. Os seus lugares: {n}.',
		first: 'É o próximo na lista de espera; assim que houver lugares, avisamos.',
		line: 'Está na lista de espera, com {n} à frente; assim que houver lugares, avisamos.',
		notComing: 'Disse que não vem.',
		by: '{name} respondeu pela sua casa.',
		change: 'Alterar a resposta',
		noRoom: 'Não há tantos lugares para isso. Fica com os que tinha.',
		noSlot: 'Escolha primeiro uma hora.',
		noPeople: 'Diga quantos vêm.',
		tooMany: 'Podem vir juntos {n} no máximo. Para mais, ligue para a secretaria.',
		closed: 'Já não se pode responder. Ligue para a secretaria.',
		gone: 'Este convite já não está aqui. Carregue a página de novo.',
		tooOften: 'É mais do que se pode receber numa hora. Ligue para a secretaria.',
		byText: 'Vem? Responda SIM e quantos, ou NÃO.',
		noLink: 'Não vimos',
		taken: '«{subject}»: vem{slot}, lugares: {n}. Para alterar: {link}',
		takenLine:
			'«{subject}»: já não há lugares{slot}. Está na lista de espera, com {n} à frente, e será avisado. Para alterar: {link}',
		takenNot: '«{subject}»: não vem. Para alterar: {link}',
		up: '«{subject}»: ficaram livres lugares{slot}, e são seus: {n}. Se já não vem, diga aqui: {link}',
		upSubject: 'Os seus lugares em «{subject}»',
		choose: '«{subject}»: escolha a sua hora aqui: {link}'
	},
	vi: {
		question: 'Quý vị có đến không?',
		yes: 'Có, chúng tôi đến',
		no: 'Không',
		adults: 'Người lớn',
		students: 'Học sinh',
		time: 'Giờ nào',
		until: 'Trả lời trước {time}.',
		over: 'Đã nhận trả lời đến {time}.',
		left: 'Chỗ còn lại: {n}',
		none: 'Không còn chỗ: quý vị sẽ đứng trong danh sách chờ.',
		have: 'Quý vị đến. Số chỗ: {n}.',
		haveAt: 'Quý vị đến: {slot}. Số chỗ: {n}.',
		first: 'Quý vị là người kế tiếp trong danh sách chờ; khi có chỗ chúng tôi sẽ báo.',
		line: 'Quý vị đang chờ, trước quý vị có {n}; khi có chỗ chúng tôi sẽ báo.',
		notComing: 'Quý vị đã nói là không đến.',
		by: '{name} đã trả lời cho gia đình.',
		change: 'Đổi câu trả lời',
		noRoom: 'Không còn đủ chỗ cho việc đó. Quý vị giữ chỗ đã có.',
		noSlot: 'Xin chọn giờ trước.',
		noPeople: 'Xin cho biết bao nhiêu người đến.',
		tooMany: 'Nhiều nhất {n} người đến cùng nhau. Nếu nhiều hơn, xin gọi văn phòng trường.',
		closed: 'Không còn trả lời được nữa. Xin gọi văn phòng trường.',
		gone: 'Lời mời này không còn nữa. Xin tải lại trang.',
		tooOften: 'Nhiều hơn mức nhận được trong một giờ. Xin gọi văn phòng trường.',
		byText: 'Quý vị đến không? Nhắn lại CÓ và số người, hoặc KHÔNG.',
		noLink: 'Không đến',
		taken: '“{subject}”: quý vị đến{slot}, số chỗ: {n}. Để đổi: {link}',
		takenLine:
			'“{subject}”: không còn chỗ{slot}. Quý vị đang chờ, trước quý vị có {n}, và sẽ được báo. Để đổi: {link}',
		takenNot: '“{subject}”: quý vị không đến. Để đổi: {link}',
		up: '“{subject}”: đã có chỗ{slot}, và là của quý vị: {n}. Nếu không đến nữa, xin báo ở đây: {link}',
		upSubject: 'Chỗ của quý vị tại “{subject}”',
		choose: '“{subject}”: xin chọn giờ ở đây: {link}'
	},
	ar: {
		question: 'هل تحضرون؟',
		yes: 'نعم، نحضر',
		no: 'لا',
		adults: 'الكبار',
		students: 'الطلاب',
		time: 'أي وقت',
		until: 'أجيبوا حتى {time}.',
		over: 'كان الرد ممكنا حتى {time}.',
		left: 'الأماكن الباقية: {n}',
		none: 'لا أماكن باقية: ستكونون في قائمة الانتظار.',
		have: 'أنتم حاضرون. أماكنكم: {n}.',
		haveAt: 'أنتم حاضرون: {slot}. أماكنكم: {n}.',
		first: 'أنتم التالون في قائمة الانتظار؛ نخبركم حالما تتوفر أماكن.',
		line: 'أنتم في قائمة الانتظار وقبلكم {n}؛ نخبركم حالما تتوفر أماكن.',
		notComing: 'قلتم إنكم لا تحضرون.',
		by: 'أجاب {name} عن بيتكم.',
		change: 'تغيير الرد',
		noRoom: 'لا توجد أماكن كافية لذلك. تبقى لكم أماكنكم.',
		noSlot: 'اختاروا وقتا أولا.',
		noPeople: 'قولوا كم شخصا يحضر.',
		tooMany: 'يحضر معا {n} على الأكثر. للمزيد اتصلوا بمكتب المدرسة.',
		closed: 'لم يعد الرد ممكنا. اتصلوا بمكتب المدرسة.',
		gone: 'لم تعد هذه الدعوة موجودة. حملوا الصفحة من جديد.',
		tooOften: 'هذا أكثر مما يقبل في ساعة. اتصلوا بمكتب المدرسة.',
		byText: 'هل تحضرون؟ أجيبوا بنعم والعدد، أو لا.',
		noLink: 'لا نحضر',
		taken: '«{subject}»: أنتم حاضرون{slot}، الأماكن: {n}. للتغيير: {link}',
		takenLine:
			'«{subject}»: لا أماكن باقية{slot}. أنتم في قائمة الانتظار وقبلكم {n}، وسنخبركم. للتغيير: {link}',
		takenNot: '«{subject}»: لا تحضرون. للتغيير: {link}',
		up: '«{subject}»: توفرت أماكن{slot} وهي لكم: {n}. إن لم تعودوا تحضرون فقولوا ذلك هنا: {link}',
		upSubject: 'أماكنكم في «{subject}»',
		choose: '«{subject}»: اختاروا وقتكم هنا: {link}'
	}
};

/** The fixed words for somebody who wants one of some languages; English where there are none. `tag` is the language they are in. */
export const comingPhrases = (
	...wanted: readonly string[]
): ComingPhrases & { readonly tag: string } => {
	const { tag, words } = inLanguage(comingWords, wanted);
	return { ...words, tag };
};
