/** Bytes as people read them, such as 226 kB or 1.4 MB. */
export function size(bytes: number) {
  if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`
  return `${bytes < 1e7 ? (bytes / 1e6).toFixed(1) : Math.round(bytes / 1e6)} MB`
}
