import { phoneText } from '../format/phone';
import type { Way } from './way';

/** A mail address or a number as people read it. */
export const addressText = (way: Way, value: string): string =>
	way === 'text' ? phoneText(value) : value;
