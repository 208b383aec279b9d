import { of, outcome } from '../api/client'

/** Hands a file to the browser to keep, under the name the server gave it. Returns that name. */
export function save(blob: Blob, response: Response): string {
  const name = decodeURIComponent(
    response.headers.get('content-disposition')?.match(/filename\*=UTF-8''(.+)$/)?.[1] ?? 'brushes.fobrel.zip',
  )
  const url = URL.createObjectURL(blob)
  follow(url, name)
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
  return name
}

function follow(href: string, name: string) {
  const link = document.createElement('a')
  link.href = href
  link.download = name
  link.click()
}

type Answer = { data?: unknown; error?: unknown; response: Response }

/** An export: its file at once, or once it is written. Returns its name. */
export async function saveExport(answer: Answer): Promise<string> {
  const blob = (await of(Promise.resolve({ ...answer, response: new Response() }))) as Blob
  if (answer.response.status !== 202) return save(blob, answer.response)
  const { begun } = JSON.parse(await blob.text()) as { begun: { id: number } }
  const made = (await outcome(begun.id)) as { export: number; file: string }
  follow(`/api/exports/${made.export}/file`, made.file)
  return made.file
}
