const QUOTED = '(?<![^\\s,;:])"((?:[^"]|"")+)"(?=[\\s,;]|$)'
/** The parts of a line between signs; a sign in quotes is no end. */
const parts = (line: string, sign: string) => line.match(new RegExp(`(?:${QUOTED}|[^${sign}])+`, 'g')) ?? []
/** A value as it must be written, and as it was meant: quotes keep commas, semicolons and colons in it. */
export const quoted = (value: string) => (/[",;:]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value)
const meant = (written: string) =>
  written.trim().replace(new RegExp(QUOTED, 'g'), (_, inner: string) => inner.replaceAll('""', '"'))
/** A search line as the server writes it back: words, then terms, apart by semicolons. */
const pieces = (query: string) =>
  parts(query, ';')
    .map((piece) => piece.trim())
    .filter(Boolean)
const read = (piece: string) => {
  const match = piece.match(/^(not )?([a-z ]+): (.*)$/)
  return match ? { negated: !!match[1], name: match[2]!, values: parts(match[3]!, ',').map(meant) } : undefined
}

/** The terms of a line, each with its values. */
export const termsOf = (query: string) =>
  pieces(query).flatMap((piece) => {
    const term = read(piece)
    return term ? [{ ...term, piece }] : []
  })

/** Whether a line asks for this value. */
export const asks = (query: string, name: string, value: string) =>
  termsOf(query).some(
    (term) =>
      !term.negated && term.name === name && term.values.some((one) => one.toLowerCase() === value.toLowerCase()),
  )

/** The line with a value added to its term, or taken out again. */
export function toggled(query: string, name: string, value: string): string {
  const found = termsOf(query).find((term) => !term.negated && term.name === name)
  const rest = pieces(query).filter((piece) => piece !== found?.piece)
  const values = found?.values ?? []
  const next = asks(query, name, value)
    ? values.filter((one) => one.toLowerCase() !== value.toLowerCase())
    : [...values, value]
  return [...rest, ...(next.length ? [`${name}: ${next.map(quoted).join(', ')}`] : [])].join('; ')
}

/** The line without one of its terms. */
export const without = (query: string, piece: string) =>
  pieces(query)
    .filter((one) => one !== piece)
    .join('; ')

/** What may be meant by the end of a line that is being typed. */
export function suggestions(typing: string, known: Record<string, string[]>): string[] {
  // What is being typed in quotes has not got its last one yet.
  const line = /(?<![^\s,;:])"[^"]/.test(typing.replace(new RegExp(QUOTED, 'g'), '')) ? `${typing}"` : typing
  const start = line.length - (/;\s*$/.test(line) ? 0 : (parts(line, ';').at(-1)?.length ?? 0))
  const head = line.slice(0, start)
  const last = line.slice(start)
  const names = Object.keys(known)
  const term = names
    .map((name) => ({ name, at: last.toLowerCase().lastIndexOf(`${name}:`) }))
    .filter(({ at }) => at >= 0)
    .sort((a, b) => b.at - a.at)[0]
  if (term) {
    const from = term.at + term.name.length + 1
    const values = [...parts(last.slice(from), ','), ...(/(,|^)\s*$/.test(last.slice(from)) ? [''] : [])]
    const typed = meant(values.at(-1)!).toLowerCase()
    const before = values
      .slice(0, -1)
      .map((value) => value.trim())
      .filter(Boolean)
    return known[term.name]!.filter((value) => value.toLowerCase().includes(typed) && value.toLowerCase() !== typed)
      .slice(0, 8)
      .map((value) => `${head}${last.slice(0, from)} ${[...before, quoted(value)].join(', ')}`)
  }
  const word = last.match(/\S+$/)?.[0]?.toLowerCase() ?? ''
  if (word.length < 1) return []
  const stem = line.slice(0, line.length - word.length)
  const terms = names.filter((name) => name.startsWith(word)).map((name) => `${stem}${name}: `)
  const tags = Object.entries(known).flatMap(([name, values]) =>
    ['tag', 'family', 'set', 'label'].includes(name) && word.length > 1
      ? values
          .filter((value) => value.toLowerCase().startsWith(word))
          .map((value) => `${stem}${name}: ${quoted(value)}`)
      : [],
  )
  return [...terms, ...tags].slice(0, 8)
}
