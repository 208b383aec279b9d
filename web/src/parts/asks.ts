import type { components } from '../api/schema'

export type Term = components['schemas']['Term']
export type TermName = components['schemas']['TermName']

/** Whether a search asks for this value of a term. */
export const asks = (terms: Term[], name: string, value: string) =>
  terms.some(
    (term) =>
      !term.negated && term.name === name && term.values.some((one) => one.toLowerCase() === value.toLowerCase()),
  )
