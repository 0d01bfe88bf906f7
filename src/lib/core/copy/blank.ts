/**
 * Whether a text shows nothing: spaces, controls, and signs that are made to be invisible (Unicode
 * property Default_Ignorable_Code_Point, general categories Cc and Cf, and the empty Braille
 * pattern), however many.
 */
export const isBlank = (text: string): boolean =>
	!/[^\p{White_Space}\p{Default_Ignorable_Code_Point}\p{Cc}\p{Cf}\u2800]/u.test(text);
