/** Hands a file to the browser to keep, under the name the server gave it. Returns that name. */
export function save(blob: Blob, response: Response): string {
  const name = decodeURIComponent(
    response.headers.get('content-disposition')?.match(/filename\*=UTF-8''(.+)$/)?.[1] ?? 'brushes.fobrel.zip',
  )
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  return name
}
