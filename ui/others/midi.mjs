// Reads a MIDI file and says what is on its tracks, or (write) writes one from such a description.
import { readFileSync, writeSync } from 'node:fs'
import { parseMidi, writeMidi } from 'midi-file'

const input = readFileSync(0)
if (process.argv[2] === 'write') {
  writeSync(1, Buffer.from(writeMidi(JSON.parse(input.toString()))))
} else {
  const file = parseMidi(input)
  const tracks = file.tracks.map((events) => {
    let at = 0
    const out = { name: '', notes: [], lyrics: [], markers: [], tempos: [] }
    for (const e of events) {
      at += e.deltaTime
      if (e.type === 'trackName') out.name = e.text
      else if (e.type === 'noteOn' && e.velocity > 0) out.notes.push({ at, key: e.noteNumber, velocity: e.velocity })
      else if (e.type === 'lyrics') out.lyrics.push({ at, text: e.text })
      else if (e.type === 'marker') out.markers.push({ at, text: e.text })
      else if (e.type === 'setTempo') out.tempos.push({ at, micros: e.microsecondsPerBeat })
    }
    return out
  })
  writeSync(1, JSON.stringify({ per: file.header.ticksPerBeat, format: file.header.format, tracks }))
}
