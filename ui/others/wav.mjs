// Reads a WAV file: its format, how long it lasts, and when something begins to sound after silence (s).
import { readFileSync, writeSync } from 'node:fs'
import wavefile from 'wavefile'

const file = new wavefile.WaveFile(readFileSync(0))
const samples = file.getSamples(false, Float64Array)
const rate = file.fmt.sampleRate
const onsets = []
let quiet = rate
let loudest = 0
for (let i = 0; i < samples.length; i++) {
  const v = Math.abs(samples[i]) / 32768
  loudest = Math.max(loudest, v)
  if (v > 0.02) {
    if (quiet > 0.02 * rate) onsets.push(i / rate)
    quiet = 0
  } else quiet++
}
writeSync(
  1,
  JSON.stringify({
    rate,
    channels: file.fmt.numChannels,
    bits: file.fmt.bitsPerSample,
    seconds: samples.length / rate,
    loudest,
    onsets,
  }),
)
