// Validates documents against a JSON Schema: {schema, documents} in, a list of what is wrong with each out.
import { readFileSync, writeSync } from 'node:fs'
import Ajv2020 from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'

const { schema, documents } = JSON.parse(readFileSync(0).toString())
const ajv = new Ajv2020({ strict: false, allErrors: true })
addFormats(ajv)
const validate = ajv.compile(schema)
const wrong = documents.map((d) =>
  validate(d) ? [] : validate.errors.map((e) => `${e.instancePath}: ${e.message} ${JSON.stringify(e.params)}`),
)
writeSync(1, JSON.stringify(wrong))
