/** What several families can say alike: yes or coming, no or not coming, and that they have seen it. */
export const likenesses = ['yes', 'no', 'seen'] as const;
export type Likeness = (typeof likenesses)[number];

/**
 * Phrases that say one thing and nothing else, in the languages that families here read (from memory), without
 * case and accents. A name may stand where `*` does.
 */
export const phrases: Readonly<Record<Likeness, readonly string[]>> = {
	yes: [
		...[
			'yes',
			'yes we can',
			'yes we will',
			'yep',
			'yeah',
			'sure',
			'of course',
			'certainly',
			'will do'
		],
		...['we come', 'i come', 'we are coming', 'were coming', 'i am coming', 'im coming', 'coming'],
		...[
			'we will come',
			'well come',
			'i will come',
			'ill come',
			'we will be there',
			'well be there'
		],
		...[
			'i will be there',
			'ill be there',
			'be there',
			'* comes',
			'* is coming',
			'* will come',
			'* will be there'
		],
		...[
			'si',
			'claro',
			'claro que si',
			'por supuesto',
			'vamos',
			'venimos',
			'iremos',
			'ahi estaremos',
			'alli estaremos'
		],
		...['estaremos ahi', 'estaremos alli', 'voy', 'ire', '* va', '* viene', '* ira'],
		...['sim', 'com certeza', 'la estaremos', 'vamos la', 'estaremos la', 'vou', '* vem', '* vai'],
		...[
			'co',
			'co a',
			'vang',
			'da',
			'da co',
			'da vang',
			'chung toi se den',
			'toi se den',
			'* se den',
			'* co den'
		],
		...[
			'نعم',
			'اجل',
			'اكيد',
			'بالتاكيد',
			'سناتي',
			'سنحضر',
			'ساحضر',
			'سنكون هناك',
			'* سياتي',
			'* سيحضر',
			'* ستحضر'
		]
	],
	no: [
		...[
			'no',
			'nope',
			'not coming',
			'we cannot come',
			'we cant come',
			'we can not come',
			'i cannot come',
			'i cant come'
		],
		...[
			'we are not coming',
			'were not coming',
			'we will not come',
			'we wont come',
			'we will not be there',
			'we wont be there'
		],
		...['* cannot come', '* cant come', '* is not coming', '* will not come', '* wont come'],
		...[
			'no podemos ir',
			'no podemos',
			'no vamos',
			'no puedo',
			'no puedo ir',
			'no iremos',
			'* no va',
			'* no puede ir',
			'* no ira'
		],
		...[
			'nao',
			'nao podemos',
			'nao podemos ir',
			'nao vamos',
			'nao posso',
			'nao posso ir',
			'* nao vai',
			'* nao pode ir'
		],
		...[
			'khong',
			'da khong',
			'khong den duoc',
			'chung toi khong den duoc',
			'toi khong den duoc',
			'* khong den duoc'
		],
		...[
			'لا',
			'لن ناتي',
			'لن نحضر',
			'لن احضر',
			'لا نستطيع الحضور',
			'* لن يحضر',
			'* لن تحضر',
			'* لن ياتي'
		]
	],
	seen: [
		...[
			'ok',
			'okay',
			'k',
			'thanks',
			'thank you',
			'thank you very much',
			'thanks a lot',
			'many thanks',
			'thx',
			'ty'
		],
		...[
			'thanks for letting us know',
			'thanks for letting me know',
			'thank you for letting us know'
		],
		...[
			'thank you for letting me know',
			'thank you for the information',
			'thanks for the information',
			'thanks for the info'
		],
		...[
			'seen',
			'noted',
			'got it',
			'received',
			'understood',
			'read',
			'i have seen this',
			'we have seen this',
			'will note'
		],
		...['great', 'perfect', 'good', 'very good', 'fine', 'all right', 'alright'],
		...[
			'gracias',
			'muchas gracias',
			'mil gracias',
			'gracias por avisar',
			'gracias por la informacion',
			'visto',
			'recibido'
		],
		...['entendido', 'enterado', 'enterada', 'de acuerdo', 'vale', 'perfecto', 'muy bien'],
		...[
			'obrigado',
			'obrigada',
			'muito obrigado',
			'muito obrigada',
			'obrigado pela informacao',
			'obrigada pela informacao'
		],
		...['visto', 'recebido', 'certo', 'esta bem', 'perfeito', 'combinado', 'ja vi'],
		...[
			'cam on',
			'xin cam on',
			'cam on co',
			'cam on thay',
			'da nhan',
			'da nhan duoc',
			'toi da xem',
			'da xem',
			'biet roi',
			'da cam on'
		],
		...[
			'شكرا',
			'شكرا لك',
			'شكرا لكم',
			'شكرا جزيلا',
			'تم',
			'تم الاطلاع',
			'وصلت',
			'وصل',
			'حسنا',
			'تمام',
			'اطلعت على هذا'
		]
	]
};

/** What is said around it and adds nothing. */
export const courtesies = [
	...[
		'hi',
		'hello',
		'dear',
		'good morning',
		'good afternoon',
		'good evening',
		'please',
		'best',
		'regards'
	],
	...['best regards', 'kind regards', 'mr', 'ms', 'mrs', 'miss'],
	...[
		'hola',
		'buenos dias',
		'buenas tardes',
		'buenas noches',
		'saludos',
		'un saludo',
		'maestra',
		'maestro',
		'senora',
		'senor'
	],
	...[
		'ola',
		'bom dia',
		'boa tarde',
		'boa noite',
		'cumprimentos',
		'professora',
		'professor',
		'senhora',
		'senhor'
	],
	...['chao co', 'chao thay', 'kinh chao', 'thua co', 'thua thay', 'a', 'da', 'co', 'thay'],
	...['مرحبا', 'السلام عليكم', 'صباح الخير', 'مساء الخير', 'تحياتي', 'استاذ', 'استاذة', 'معلمتي']
];

/** Signs that answer by themselves (Unicode emoji, without their skin tones). */
export const signs: Readonly<Record<string, Likeness>> = {
	'👍': 'seen',
	'🙏': 'seen',
	'✅': 'yes',
	'👌': 'seen',
	'❤': 'seen',
	'👎': 'no'
};
