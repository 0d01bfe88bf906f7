/**
 * A few school words in the languages of the demo's families. The translator puts these in and
 * leaves every other word as it is: plainly simulated, and plain to see.
 */
type Row = readonly [en: string, es: string, pt: string, vi: string, ar: string];

const rows: readonly Row[] = [
	['school', 'escuela', 'escola', 'trường', 'المدرسة'],
	['student', 'estudiante', 'aluno', 'học sinh', 'الطالب'],
	['students', 'estudiantes', 'alunos', 'học sinh', 'الطلاب'],
	['family', 'familia', 'família', 'gia đình', 'الأسرة'],
	['families', 'familias', 'famílias', 'các gia đình', 'الأسر'],
	['teacher', 'docente', 'professor', 'giáo viên', 'المعلم'],
	['ferry', 'transbordador', 'barco', 'phà', 'العبّارة'],
	['late', 'con retraso', 'atrasado', 'trễ', 'متأخرة'],
	['closed', 'cerrada', 'fechada', 'đóng cửa', 'مغلقة'],
	['today', 'hoy', 'hoje', 'hôm nay', 'اليوم'],
	['tomorrow', 'mañana', 'amanhã', 'ngày mai', 'غدًا'],
	['please', 'por favor', 'por favor', 'xin vui lòng', 'من فضلكم'],
	['bring', 'traiga', 'traga', 'mang theo', 'أحضروا'],
	['trip', 'excursión', 'visita', 'chuyến đi', 'الرحلة'],
	['slip', 'permiso', 'autorização', 'giấy phép', 'الإذن'],
	['picture', 'foto', 'fotografia', 'ảnh', 'الصورة'],
	['day', 'día', 'dia', 'ngày', 'يوم'],
	['welcome', 'bienvenidos', 'bem-vindos', 'chào mừng', 'مرحبًا'],
	['coat', 'abrigo', 'casaco', 'áo khoác', 'معطف'],
	['boots', 'botas', 'botas', 'ủng', 'أحذية'],
	['jars', 'frascos', 'frascos', 'lọ', 'مرطبانات'],
	['thank', 'gracias', 'obrigado', 'cảm ơn', 'شكرًا'],
	['and', 'y', 'e', 'và', 'و'],
	['the', 'la', 'a', '', ''],
	['is', 'está', 'está', 'thì', ''],
	['for', 'para', 'para', 'cho', 'لأجل'],
	['on', 'el', 'em', 'vào', 'في'],
	['with', 'con', 'com', 'với', 'مع']
];
const columns: Readonly<Record<string, number>> = { es: 1, pt: 2, vi: 3, ar: 4 };

export const languages = Object.keys(columns);

/** One string of plain words in a language, word for word, the rest as it was. */
export function translateWords(text: string, to: string): string {
	const column = columns[to.split('-')[0]!.toLowerCase()];
	if (column === undefined) return text;
	const words = new Map(rows.map((row) => [row[0], row[column]!]));
	return text.replace(/\p{L}+/gu, (word) => {
		const found = words.get(word.toLowerCase());
		if (found === undefined) return word;
		const capital = word[0] !== word[0]!.toLowerCase();
		return capital ? found.charAt(0).toUpperCase() + found.slice(1) : found;
	});
}
