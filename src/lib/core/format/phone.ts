import {
	getCountryCallingCode,
	parsePhoneNumberFromString,
	type CountryCode
} from 'libphonenumber-js/min';

/** An E.164 number as people read it, "+1 207 555 0143"; what is no number stays as it is. */
export function phoneText(value: string): string {
	const number = parsePhoneNumberFromString(value);
	return number ? number.formatInternational() : value;
}

/** ITU-T E.164: a plus, a country code that does not begin with 0, 15 digits at most. */
const e164 = /^\+[1-9]\d{6,14}$/;

/**
 * A number as a school office types it, "(207) 555-0143", in E.164; null if no phone can have it. Where it
 * does not begin with +, it is read as in a country (ISO 3166-1, two letters). What is in E.164 already is
 * taken as it is.
 */
export function toE164(text: string, country: string): string | null {
	const value = text.trim();
	if (e164.test(value)) return value;
	const number = parsePhoneNumberFromString(value, country as CountryCode);
	return number?.isPossible() && !number.ext ? number.number : null;
}

/** A number as it is kept, in E.164; null for what is none. One of long ago that was kept as it was typed is read as it was then. */
export const keptNumber = (value: string): string | null => toE164(value, 'US');

/** Whether an E.164 number is of the numbering plan of a country. */
export const isNumberOf = (country: string, number: string): boolean =>
	parsePhoneNumberFromString(number)?.countryCallingCode ===
	getCountryCallingCode(country as CountryCode);
