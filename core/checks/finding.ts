/** What would look wrong in a film, as it is told. */

type WordCheck = 'unseen' | 'brief' | 'near-edge' | 'small' | 'end'

/** What a finding is about; a card has the stop that it is of. */
export type Subject =
  | { kind: 'stop' | 'landmark' | 'caption'; id: string }
  | { kind: 'card'; id: string; stop: string }
  /** The whole film. */
  | { kind: 'film'; id: 'end' }

export interface Finding {
  check: WordCheck
  subject: Subject
  /** One sentence, with the figure and the limit. */
  text: string
  /** The moment of the film to look at, in seconds. */
  at: number
  /** What it lacks: seconds, or, where it is too small, how many times as large it should be. */
  lack: number
}

/** By what a finding is known from one look to the next: one that was accepted stays so while its figure changes. */
export const keyOf = ({ check, subject }: Pick<Finding, 'check' | 'subject'>): string => `${check} ${subject.kind} ${subject.id}`
