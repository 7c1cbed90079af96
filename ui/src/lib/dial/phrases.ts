import { faceOf } from '../trace/hands'
import type { TraceMove, TraceStrike } from '../trace/geometry'

/** A move or a strike of a repetition, in the words for whoever does it. */
export type Item = { at: number; until: number; text: string; strike: boolean; part: number }

/** Strikes that are thrown in one go, or one defence or step. */
export type Phrase = { from: number; to: number; text: string; part: number }

/** What a repetition asks for, in its order. */
export function items(strikes: TraceStrike[], moves: TraceMove[]): Item[] {
  const struck = strikes.map((s) => ({ at: s.at, until: s.at, text: faceOf(s, ''), strike: true, part: s.part ?? 0 }))
  const done = moves.map((m) => ({ at: m.at, until: m.until, text: m.text, strike: false, part: m.part ?? 0 }))
  return [...struck, ...done].sort((a, b) => a.at - b.at)
}

/** The phrases of some items: strikes run on until a defence, a step or a new part. */
export function phrases(list: Item[]): Phrase[] {
  const found: Phrase[] = []
  let open = false
  for (const m of list) {
    const last = found.at(-1)
    if (open && m.strike && last && last.part === m.part) {
      last.text += `-${m.text}`
      last.to = m.until
    } else found.push({ from: m.at, to: m.until, text: m.text, part: m.part })
    open = m.strike
  }
  return found
}

/** The parts of a combination, each in words: "1-1-2", "duck, 2-3-2!". */
export function parts(list: Item[]): string[] {
  const told: string[][] = []
  for (const p of phrases(list)) (told[p.part] ??= []).push(p.text)
  return told.map((texts) => texts.join(', '))
}
