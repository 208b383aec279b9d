// What tools of another language say of what we hand over: reads JSON from standard input.
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'

const require = createRequire(new URL('../../web/package.json', import.meta.url))
const Ajv = require('ajv/dist/2020').default
const semver = require('semver')
const { presets = [], numbers = [], licences = [], library = null, histories = [] } = JSON.parse(readFileSync(0, 'utf8'))
const ajv = new Ajv({ strict: false })
for (const name of ['preset', 'library']) ajv.addSchema(JSON.parse(readFileSync(new URL(`../../core/data/${name}.schema.json`, import.meta.url), 'utf8')), name)
const wrong = (schema, value) => (ajv.validate(schema, value) ? [] : ajv.errors.map(({ message }) => message))
const spdx = new Set(require('spdx-license-ids'))
process.stdout.write(JSON.stringify({
  presets: presets.map((preset) => wrong('preset', preset)),
  library: library && wrong('library', library),
  histories: histories.map((list) => wrong('library#/$defs/history', list)),
  rising: numbers.every((number, index) => semver.valid(number) && (index === 0 || semver.gt(number, numbers[index - 1]))),
  levels: numbers.slice(1).map((number, index) => semver.diff(numbers[index], number)),
  licences: licences.map((id) => spdx.has(id)), all: [...spdx].sort(),
}))
