/** What the core threw, as a sentence for the page. */
export const asSentence = (message: string) => `${message.charAt(0).toUpperCase()}${message.slice(1)}.`;
