import type { Schemas } from '../api/client'
import { shortNames } from './names'

type Plan = Schemas['Class']
export type Placed = { bag: string; bagId: string; person: string; personId: string; drill: string }

/** Who is on which bag in a round, in the order of the bags, and who does what off them. */
export function seatsOf(plan: Plan, round: number, doings: Map<string, string>) {
  const short = shortNames(plan.people.map((p) => p.name))
  const name = (id: string) => short.get(plan.people.find((p) => p.id === id)?.name ?? '') ?? ''
  const turn = plan.turns.find((t) => t.round === round)
  const on: Placed[] = plan.bags.flatMap((b) => {
    const seat = turn?.seats.find((s) => s.bag === b.id)
    if (!seat) return []
    const drill = plan.given.find((g) => g.person === seat.person && g.bag === b.id)?.name ?? ''
    return [{ bag: b.name, bagId: b.id, person: name(seat.person), personId: seat.person, drill }]
  })
  const off = Object.entries(
    Object.groupBy(turn?.seats.filter((s) => !s.bag && name(s.person)) ?? [], (s) => s.activity),
  ).map(([activity, seats]) => ({
    what: doings.get(activity) ?? activity,
    people: (seats ?? []).map((s) => name(s.person)),
  }))
  return { on, off }
}
