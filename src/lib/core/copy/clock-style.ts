/** How a time of day is written: "2:15 pm" or "14:15". */
export type ClockStyle = '12' | '24';
