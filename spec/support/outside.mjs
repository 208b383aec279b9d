// What tools of another language say of what we hand over: reads JSON from standard input.
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'

const require = createRequire(new URL('../../web/package.json', import.meta.url))
const Ajv = require('ajv/dist/2020').default
const semver = require('semver')
const { presets = [], numbers = [], licences = [] } = JSON.parse(readFileSync(0, 'utf8'))
const validate = new Ajv({ strict: false }).compile(JSON.parse(readFileSync(new URL('../../core/data/preset.schema.json', import.meta.url), 'utf8')))
const spdx = new Set(require('spdx-license-ids'))
process.stdout.write(JSON.stringify({
  presets: presets.map((preset) => (validate(preset) ? [] : validate.errors.map(({ message }) => message))),
  rising: numbers.every((number, index) => semver.valid(number) && (index === 0 || semver.gt(number, numbers[index - 1]))),
  levels: numbers.slice(1).map((number, index) => semver.diff(numbers[index], number)),
  licences: licences.map((id) => spdx.has(id)), all: [...spdx].sort(),
}))
