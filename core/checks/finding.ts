/** What would look wrong in a film, as it is told. */

type Check = 'unseen' | 'brief' | 'near-edge' | 'small' | 'end' | 'thin' | 'one-name' | 'dates' | 'licence'

/** What a finding is about; a card has the stop that it is of. */
export type Subject =
  | { kind: 'stop' | 'landmark' | 'caption' | 'leg' | 'sheet'; id: string }
  | { kind: 'card'; id: string; stop: string }
  /** The whole film. */
  | { kind: 'film'; id: 'end' }

export interface Finding {
  check: Check
  subject: Subject
  /** One sentence, with the figure and the limit. */
  text: string
  /** The moment of the film to look at, in seconds; null where it is no matter of one. */
  at: number | null
  /** What it lacks: seconds, or, where it is too small, how many times as large it should be; 1 where that is no matter of more or less. */
  lack: number
}

/** By what a finding is known from one look to the next: one that was accepted stays so while its figure changes. */
export const keyOf = ({ check, subject }: Pick<Finding, 'check' | 'subject'>): string => `${check} ${subject.kind} ${subject.id}`
