/** Ids are text; the server makes UUIDs of version 7, which sort by time. Clients may make ids for the parts of a study. */
export const ID_PATTERN = /^[A-Za-z0-9-]{1,64}$/;
/** One of these words, or a figure that a study names itself, by its id. */
export const ownOr = (words: readonly string[]) => new RegExp(`^(?:${words.join('|')}|own:[A-Za-z0-9-]{1,64})$`);
