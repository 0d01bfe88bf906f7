/**
 * What becomes of each row that says who somebody is, when they are erased. Rows that are counted stay, without
 * what they say of the person: how many copies there were, how many were read and by which way stays true. `$id`
 * is the person, `$addresses` a JSON list of every address that was ever theirs, in small letters.
 */

/** What stands for a name where somebody was erased. */
export const erasedName = '(erased)';

const theirs = (column: string) => `lower(${column}) IN (SELECT value FROM json_each($addresses))`;
const copies = '(SELECT id FROM delivery WHERE person_id = $id)';
const talks = '(SELECT id FROM conversation WHERE person_id = $id)';

/** In this order, since rows name each other. */
export const erasing: readonly string[] = [
	// What was said by itself, and the links in it.
	`DELETE FROM auto_note WHERE ${theirs('address')} OR joining_id IN (SELECT id FROM joining WHERE person_id = $id OR ${theirs('address')})
		OR link_id IN (SELECT id FROM family_link WHERE person_id = $id) OR conversation_id IN ${talks} OR delivery_id IN ${copies}
		OR coming_id IN (SELECT id FROM coming WHERE person_id = $id)`,
	`DELETE FROM joining WHERE person_id = $id OR ${theirs('address')}`,
	// What they said to invitations: what their household said stays its own.
	'DELETE FROM coming WHERE person_id = $id',
	'UPDATE coming SET by_id = NULL WHERE by_id = $id',
	'UPDATE coming_said SET by_id = NULL WHERE by_id = $id',
	`DELETE FROM coming_guest WHERE ${theirs('address')}`,
	"UPDATE joining SET student_id = NULL, student_said = '' WHERE student_id = $id",
	'DELETE FROM spoken_to WHERE student_id = $id',
	'UPDATE spoken_to SET by_id = NULL WHERE by_id = $id',
	'DELETE FROM family_link WHERE person_id = $id',
	'DELETE FROM link_end WHERE person_id = $id',
	'DELETE FROM board_link WHERE person_id = $id',
	'DELETE FROM board_read WHERE person_id = $id',
	// What they wrote, and what came of it; letters to the staff that repeat it.
	`DELETE FROM notice WHERE person_id = $id OR conversation_id IN ${talks}`,
	`DELETE FROM answer WHERE delivery_id IN ${copies}`,
	'DELETE FROM conversation WHERE person_id = $id',
	`DELETE FROM conversation WHERE ${theirs('number')}`,
	`UPDATE answer SET from_name = '', from_address = '' WHERE ${theirs('from_address')}`,
	`DELETE FROM text_in WHERE person_id = $id OR delivery_id IN ${copies} OR ${theirs('from_number')}`,
	`DELETE FROM text_part WHERE ${theirs('from_number')}`,
	'DELETE FROM conversation_guest WHERE person_id = $id',
	'DELETE FROM away_told WHERE person_id = $id',
	'DELETE FROM away WHERE person_id = $id',
	// Copies stay, and are nobody's: no address, no words of any mailbox, no link that opens anything.
	`DELETE FROM returned_mail WHERE delivery_id IN ${copies}`,
	`UPDATE event SET detail = '', said = NULL, visitor = NULL, about = NULL WHERE delivery_id IN ${copies}`,
	`UPDATE delivery SET address = NULL, link_hash = NULL, nonce = lower(hex(randomblob(16))), provider_ref = NULL
		WHERE person_id = $id`,
	`UPDATE digest SET address = '', nonce = lower(hex(randomblob(16))) WHERE person_id = $id`,
	`UPDATE left_out SET reasons = '[]' WHERE person_id = $id`,
	'DELETE FROM dispatch_mark WHERE student_id = $id',
	// What was learned of how they read, and what was to be expected of them.
	'DELETE FROM habit WHERE person_id = $id',
	'DELETE FROM forecast_chance WHERE person_id = $id',
	'DELETE FROM proof WHERE user_id = $id',
	// What is known of them, and who said so.
	'DELETE FROM address WHERE person_id = $id',
	'DELETE FROM declined WHERE person_id = $id',
	'DELETE FROM own_time WHERE person_id = $id',
	'DELETE FROM marked WHERE student_id = $id',
	'DELETE FROM contact WHERE student_id = $id OR person_id = $id',
	'DELETE FROM enrolment WHERE student_id = $id',
	'DELETE FROM group_member WHERE person_id = $id',
	// A home with nobody else in it is named after them.
	`UPDATE household SET name = '${erasedName}', gone_at = coalesce(gone_at, $at)
		WHERE id IN (SELECT household_id FROM household_member WHERE person_id = $id)
			AND NOT EXISTS (SELECT 1 FROM household_member WHERE household_id = household.id AND person_id != $id)`,
	'DELETE FROM household_member WHERE person_id = $id',
	'DELETE FROM kept_person WHERE person_id = $id OR student_id = $id',
	'DELETE FROM section_staff WHERE person_id = $id',
	'DELETE FROM staff WHERE person_id = $id',
	'DELETE FROM person_change WHERE person_id = $id OR about_id = $id',
	'UPDATE person SET same_as = NULL WHERE same_as = $id',
	'DELETE FROM made_one WHERE kept_id = $id OR other_id = $id',
	'DELETE FROM same_or_other WHERE person_id = $id',
	// What a source says of them: it comes again if the next file says it again.
	`DELETE FROM roster_line WHERE (source_id, key) IN (SELECT source_id, key FROM known_as WHERE kind = 'person' AND row_id = $id)`,
	`DELETE FROM known_as WHERE kind = 'person' AND row_id = $id`,
	// How they came in.
	'UPDATE setting_change SET by_id = NULL WHERE by_id = $id',
	'DELETE FROM account_link WHERE person_id = $id',
	'DELETE FROM recovery_code WHERE person_id = $id',
	'DELETE FROM second_factor WHERE person_id = $id',
	'DELETE FROM seen_place WHERE person_id = $id',
	'DELETE FROM outside_name WHERE person_id = $id',
	'DELETE FROM session WHERE person_id = $id',
	'DELETE FROM role WHERE person_id = $id',
	'DELETE FROM sign_in WHERE person_id = $id',
	`UPDATE person SET given_name = '${erasedName}', family_name = '', identifier = NULL, grade_level = NULL, language = 'und', has_inbox = 0,
		gone_at = coalesce(gone_at, $at) WHERE id = $id`
];

/** Full-text indexes, whose deleted words stay in them until they are made one again (sqlite.org/fts5.html section 6.8). */
export const indexes = ['person_words', 'dispatch_words', 'section_words', 'answer_words'] as const;

/** Texts of ours in which a name may stand since somebody was picked by name, and what is put in its place. */
export const namedIn: readonly (readonly [table: string, column: string])[] = [
	['dispatch', 'audience_words'],
	['kept_audience', 'words'],
	['standing', 'audience_words'],
	['household', 'name'],
	['spoken_to', 'words'],
	['roster_file', 'looked'],
	['roster_file', 'why'],
	['conversation_act', 'what']
];

/** Kept rows that are thrown away whole where they hold a name or an address: they are there to be undone, or to be read once. */
export const thrownAway: readonly (readonly [table: string, column: string])[] = [
	['roster_line', 'said'],
	['notice', 'text'],
	['notice', 'html'],
	['proof', 'letter'],
	['proof', 'for_name'],
	['person_change', 'before'],
	['person_change', 'after'],
	['auto_note', 'words'],
	['auto_note', 'name']
];
