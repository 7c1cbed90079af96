// Reads comma-separated values and gives their rows, or (write) writes rows.
import { readFileSync, writeSync } from 'node:fs'
import Papa from 'papaparse'

const input = readFileSync(0).toString()
if (process.argv[2] === 'write') writeSync(1, Papa.unparse(JSON.parse(input)))
else writeSync(1, JSON.stringify(Papa.parse(input)))
