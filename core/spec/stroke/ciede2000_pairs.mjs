// Writes the last column of ciede2000_pairs.csv with the npm package culori: npm i culori && node ciede2000_pairs.mjs
import { readFileSync, writeFileSync } from 'node:fs'
import { differenceCiede2000 } from 'culori'

const file = new URL('ciede2000_pairs.csv', import.meta.url)
const difference = differenceCiede2000()
const lines = readFileSync(file, 'utf8').trimEnd().split('\n')
const rows = lines.map((line) => {
  if (!/^\d/.test(line)) return line
  const [l1, a1, b1, l2, a2, b2, table] = line.split(',')
  const lab = (l, a, b) => ({ mode: 'lab65', l: Number(l), a: Number(a), b: Number(b) })
  return [l1, a1, b1, l2, a2, b2, table, difference(lab(l1, a1, b1), lab(l2, a2, b2)).toFixed(8)].join(',')
})
writeFileSync(file, rows.join('\n') + '\n')
