import type { ArrivalItem } from '../../api/client'

/** What is said of each state of a thing that came in, those that ask for a decision first. */
export const STATES: Record<ArrivalItem['state'], string> = {
  named: 'The same name, another stroke',
  apart: 'An edition that went its own way',
  newer: 'A newer edition of a brush here',
  older: 'An older edition of a brush here',
  attic: 'Lies in the Attic',
  lacking: 'A need is missing',
  future: 'Written by a later version',
  unreadable: 'Cannot be read',
  aside: 'Left aside',
  new: 'New',
  identical: 'Already here, paints the same',
}

export const DECISIONS: Record<ArrivalItem['decision'], string> = {
  take: 'take in',
  both: 'keep both, next number',
  edition: 'take as next edition',
  replace: 'take its place; it goes to the Attic',
  back: 'bring back',
  leave: 'leave out',
}
