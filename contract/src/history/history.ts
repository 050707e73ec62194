/** One change to a record that results rest on. */
export interface HistoryEntry {
  id: string;
  at: string;
  /** Initials; empty where nobody said. */
  by: string;
  /** What was changed, in words, such as "house rules" or "limit of Controller". */
  changed: string[];
  /** Results that moved by it. */
  moved: MovedResult[];
}

export interface MovedResult {
  /** Spot, or claim. */
  what: string;
  before: string;
  after: string;
}
