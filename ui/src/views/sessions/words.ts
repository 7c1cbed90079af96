import type { Schemas } from '../../lib/api/client'

type Block = Schemas['Block']

export const roles: Record<Block['role'], string> = {
  opener: 'easy flow',
  known: 'what they know',
  new: 'new',
  whole: 'full combination',
  fast: 'fast',
  free: 'free',
  drill: 'one drill',
  own: 'own drills',
  counted: 'counted',
  off: 'off the bag',
}
export const kindsOf: Record<Schemas['Round']['kind'], string> = {
  warmUp: 'Warm-up',
  change: 'Gloves and water',
  work: 'Round',
  finisher: 'Finisher',
  coolDown: 'Cool-down',
}
export const paces: Record<NonNullable<Block['pace']>, string> = {
  flow: 'in flow',
  combination: 'to learn it',
  power: 'with power',
  speed: 'at speed',
  free: 'own rhythm',
}
export const calls: Record<NonNullable<Block['guidance']>, string> = {
  called: 'called',
  partly: 'partly called',
  alone: 'not called',
  fading: 'calls fade out',
}
export const options = <T extends string>(of: Record<T, string>) =>
  (Object.keys(of) as T[]).map((value) => ({ value, text: of[value] }))
