/** Initials of whoever did something: up to four letters; empty where nobody says. */
export const INITIALS = /^\p{L}{0,4}$/u;
export const INITIALS_SENTENCE = 'Initials are up to four letters.';
