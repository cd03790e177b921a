/** What an answer of the server was made for: no answer is shown or used for anything else. */

export interface Stamp {
  /** Id of the design. */
  design: string;
  /** Its version in this window: counts up with every change. */
  version: number;
}

export interface Stamped<T> {
  data: T;
  stamp: Stamp;
}

export const sameStamp = (one: Stamp, other: Stamp): boolean =>
  one.design === other.design && one.version === other.version;
