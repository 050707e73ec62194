/** Initials of whoever did something: up to four letters; empty where nobody says. */
export const INITIALS = /^\p{L}{0,4}$/u;
/** Initials as they are kept: the first four letters of what was typed, as capitals. */
export const asInitials = (typed: string): string => [...typed.replace(/\P{L}/gu, '').toUpperCase()].slice(0, 4).join('');
export const INITIALS_SENTENCE = 'Initials are up to four letters.';
