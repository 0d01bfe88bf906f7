import { districtSchema, type District } from '../../db/district';
import { answersForm } from './answers-form';
import { boardsForm } from './boards-form';
import { districtForm } from './district-form';
import { factorForm } from './factor-form';
import { filesForm } from './files-form';
import type { Form } from './form';
import { keepingForm } from './keeping-form';
import { languagesForm } from './languages-form';
import { letterheadForm } from './letterhead-form';
import { quietForm } from './quiet-form';
import { sendingForm } from './sending-form';
import type { ChapterCode } from './types';

/** The chapters of the settings that are forms over the district, in the order in which they stand. */
export const chapters: Readonly<Record<ChapterCode, Form<District>>> = {
	district: districtForm,
	languages: languagesForm,
	quiet: quietForm,
	letterhead: letterheadForm,
	sending: sendingForm,
	answers: answersForm,
	boards: boardsForm,
	files: filesForm,
	keeping: keepingForm,
	factor: factorForm
};

/** The district as it would be after a change of one chapter. */
export const changedDistrict = (district: District, change: Partial<District>): District =>
	districtSchema.parse({ ...district, ...change });
