/** Something is wrong with the data folder; the sentence says what, and the way out of it. */
export class DataProblem extends Error {}
