/** The sentence for a field that holds no number. */
export const number = (what: string) => ({ message: `${what} must be a number.` });
