import { docOf } from './doc';
import { wordingOf, type Variant, type Wording } from './words';

/** A wording that a school can begin with. What stands in square brackets is to be filled in. */
export interface StartingWording {
	readonly name: string;
	readonly wording: Wording;
}

type Said = readonly [subject: string, body: string, text?: string];

/** One wording from what it says in each language; English is the original. */
function starting(name: string, en: Said, others: Readonly<Record<string, Said>>): StartingWording {
	const wordsOf = ([subject, body, text]: Said) => ({
		subject,
		body: docOf(body),
		own: text ? { text: { text, link: true } } : {}
	});
	const basis = wordsOf(en);
	return {
		name,
		wording: {
			...wordingOf(en[0], en[1]),
			words: basis,
			variants: Object.entries(others).map(([language, said]): Variant => ({
				language,
				words: wordsOf(said),
				checked: true,
				basis,
				off: false
			}))
		}
	};
}

/** The set for a school, before it has kept any of its own. */
export const startingWordings: readonly StartingWording[] = [
	starting(
		'Closure',
		[
			'{{school}} is closed [day]',
			'Dear families,\n\n{{school}} is closed on [day] because of [reason]. There are no lessons and no meals that day. School is open again on [next day] at the usual time.\n\nIf you need help that day, call the office.',
			'{{school}} is closed on [day]: [reason]. Open again on [next day].'
		],
		{
			ar: [
				'{{school}}: مغلقة يوم [day]',
				'الأسر الكريمة،\n\nتُغلق {{school}} يوم [day] بسبب [reason]. لا دروس ولا وجبات في ذلك اليوم. تفتح المدرسة من جديد يوم [next day] في الوقت المعتاد.\n\nإذا احتجتم إلى مساعدة في ذلك اليوم فاتصلوا بمكتب المدرسة.',
				'{{school}}: مغلقة يوم [day] بسبب [reason]. تفتح من جديد يوم [next day].'
			],
			es: [
				'{{school}}: cerrada el [day]',
				'Estimadas familias:\n\n{{school}} estará cerrada el [day] por [reason]. Ese día no hay clases ni comidas. La escuela abre de nuevo el [next day] a la hora de siempre.\n\nSi necesita ayuda ese día, llame a la oficina.',
				'{{school}}: cerrada el [day], [reason]. Abre de nuevo el [next day].'
			],
			pt: [
				'{{school}}: fechada em [day]',
				'Caras famílias,\n\n{{school}} está fechada em [day] por causa de [reason]. Nesse dia não há aulas nem refeições. A escola abre de novo em [next day] à hora habitual.\n\nSe precisar de ajuda nesse dia, telefone para a secretaria.',
				'{{school}}: fechada em [day], [reason]. Abre de novo em [next day].'
			],
			vi: [
				'{{school}}: đóng cửa ngày [day]',
				'Kính gửi quý phụ huynh,\n\n{{school}} đóng cửa ngày [day] vì [reason]. Ngày đó không có lớp học và không có bữa ăn. Trường mở lại ngày [next day] vào giờ thường lệ.\n\nNếu cần giúp đỡ trong ngày đó, xin gọi văn phòng.',
				'{{school}}: đóng cửa ngày [day], [reason]. Mở lại ngày [next day].'
			]
		}
	),
	starting(
		'Late ferry',
		[
			'[Run] is [minutes] minutes late',
			'The [time] boat of the [run] leaves at [new time] today because of [reason]. Nobody is marked late.',
			'[Run] leaves at [new time], not [time]. Nobody is marked late.'
		],
		{
			ar: [
				'[Run]: تأخير [minutes] دقيقة',
				'قارب الساعة [time] لخط [run] ينطلق اليوم الساعة [new time] بسبب [reason]. لن يُسجَّل أي طالب متأخرًا.',
				'[Run]: الانطلاق الساعة [new time] بدلًا من [time]. لن يُسجَّل أي طالب متأخرًا.'
			],
			es: [
				'[Run]: [minutes] minutos de retraso',
				'El barco de las [time] de la línea [run] sale hoy a las [new time] por [reason]. A nadie se le anota retraso.',
				'[Run] sale a las [new time], no a las [time]. A nadie se le anota retraso.'
			],
			pt: [
				'[Run]: [minutes] minutos de atraso',
				'O barco das [time] da linha [run] parte hoje às [new time] por causa de [reason]. Ninguém fica com atraso marcado.',
				'[Run] parte às [new time], não às [time]. Ninguém fica com atraso marcado.'
			],
			vi: [
				'[Run]: trễ [minutes] phút',
				'Chuyến phà [time] của tuyến [run] hôm nay khởi hành lúc [new time] vì [reason]. Không em nào bị ghi đi trễ.',
				'[Run] khởi hành lúc [new time], không phải [time]. Không em nào bị ghi đi trễ.'
			]
		}
	),
	starting(
		'Event reminder',
		[
			'Reminder: [event] on [day]',
			'Dear {{first_name}},\n\n[event] is on [day] at [time], in [place]. Doors open [minutes] minutes before. Everyone is welcome, and it costs nothing.\n\nIf you cannot come, you need not do anything.'
		],
		{
			es: [
				'Recordatorio: [event], el [day]',
				'Hola, {{first_name}}:\n\n[event] es el [day] a las [time], en [place]. Las puertas se abren [minutes] minutos antes. Todos son bienvenidos y no cuesta nada.\n\nSi no puede venir, no tiene que hacer nada.'
			]
		}
	),
	starting(
		'Missing slip',
		[
			'{{student}}: the slip for [trip] is missing',
			'Dear {{first_name}},\n\nwe do not have the signed slip for [trip] yet for {{student}}. Please send it with {{student}} by [day]. Without it, {{student}} stays at school that day and has lessons.\n\nIf you sent it already, tell us, and we will look for it.'
		],
		{
			es: [
				'{{student}}: falta el permiso para [trip]',
				'Hola, {{first_name}}:\n\ntodavía no tenemos el permiso firmado para [trip] de {{student}}. Por favor, envíelo antes del [day]. Sin el permiso, {{student}} se queda ese día en la escuela y tiene clase.\n\nSi ya lo envió, avísenos y lo buscaremos.'
			]
		}
	),
	starting(
		'Picture day',
		[
			'Picture day at {{school}} is [day]',
			'Pictures are taken on [day], class by class, in [place]. {{student}} needs nothing special. Every class picture is free. Prices for single pictures are on the sheet that comes home on [other day].'
		],
		{
			es: [
				'El día de la foto en {{school}} es el [day]',
				'Las fotos se hacen el [day], clase por clase, en [place]. {{student}} no necesita nada especial. La foto de la clase es gratis. Los precios de las fotos individuales están en la hoja que llega a casa el [other day].'
			]
		}
	),
	starting(
		'Welcome',
		[
			'Welcome to {{school}}',
			'Dear {{first_name}},\n\nwelcome. {{student}} begins on [day] at [time]. The teacher is {{teacher}}. Please bring [things]; all else is here.\n\nWe write to you by email, by text if you have asked for it, and in your inbox. You can answer this letter whenever you have a question.'
		],
		{
			es: [
				'Bienvenidos a {{school}}',
				'Hola, {{first_name}}:\n\nbienvenidos. {{student}} empieza el [day] a las [time]. Su docente es {{teacher}}. Por favor, traiga [things]; todo lo demás está aquí.\n\nLe escribimos por correo electrónico, por mensaje de texto si lo ha pedido y en su buzón. Puede responder a esta carta cuando tenga una pregunta.'
			]
		}
	)
];
