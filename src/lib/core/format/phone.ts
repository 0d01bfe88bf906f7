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

/** The country whose national numbers are meant where none is written. */
const homeCountry: CountryCode = 'US';

/**
 * A number as a school office types it, "(207) 555-0143", in E.164; null if no phone can have it.
 * What is in E.164 already is taken as it is.
 */
export function toE164(text: string, country: CountryCode = homeCountry): string | null {
	const value = text.trim();
	if (e164.test(value)) return value;
	const number = parsePhoneNumberFromString(value, country);
	return number?.isPossible() && !number.ext ? number.number : null;
}

/** Whether an E.164 number is of the numbering plan of our own country. */
export const isHomeNumber = (number: string): boolean =>
	parsePhoneNumberFromString(number)?.countryCallingCode === getCountryCallingCode(homeCountry);
