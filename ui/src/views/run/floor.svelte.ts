import { api, ask, type Schemas } from '../../lib/api/client'
import { lastRecorder, rememberRecorder } from '../../lib/run/recorder'
import { Round, type Plays } from '../../lib/run/round.svelte'
import { handWord } from '../../lib/trace/hands'

export type Band = Schemas['StandInChoice']['ability']
export type Source = Schemas['NewRun']['source']
export type Ready = Awaited<ReturnType<typeof readied>>

/** All that is shown before a round of an assignment. */
export async function readied(id: string) {
  const at = { params: { path: { id } } }
  const drill = await ask(api.GET('/api/assignments/{id}', at))
  const { rigId, traineeId, doc } = drill
  const [trainee, rig, preview, outlook] = await Promise.all([
    ask(api.GET('/api/trainees/{id}', { params: { path: { id: traineeId } } })),
    ask(api.GET('/api/rigs/{id}', { params: { path: { id: rigId } } })),
    ask(api.POST('/api/compose', { body: { rigId, traineeId, doc, glance: true } })),
    ask(api.GET('/api/assignments/{id}/outlook', at)),
  ])
  return { drill, trainee, rig, preview, outlook }
}

/** A round on the floor with how it is to be recorded and run. */
export class Floor {
  round: Round
  ready = $state.raw<Ready | null>(null)
  source = $state<Source>(lastRecorder())
  ability = $state<Band>('intermediate')
  fault = $state<Schemas['FaultName']['code'] | ''>('') // that the demo hits make on purpose
  times = $state(2) // of the size at which it is just named
  seed = Math.floor(Math.random() * 1e6)
  pressed = $state('')
  chosen = $state<Plays | ''>('') // how it runs, where the coach chose

  ways = $derived((this.ready?.preview.plays[this.source] ?? ['beat']) as Plays[])
  plays = $derived(this.chosen && this.ways.includes(this.chosen) ? this.chosen : (this.ways[0] ?? 'beat'))
  stance = $derived(this.ready?.trainee.stance ?? 'orthodox')
  left = $derived(handWord('lead', this.stance) === 'left' ? 'lead' : 'rear')
  right = $derived(this.left === 'lead' ? 'rear' : 'lead')
  live = $derived.by(() => this.round.phase !== 'ready' && this.round.phase !== 'starting' && !!this.round.run)
  barred = $derived(this.ready?.outlook.barred ?? false)

  constructor(over: (id: string, sent: boolean) => void) {
    this.round = new Round(over)
  }

  start(id: string) {
    if (this.barred) return
    rememberRecorder(this.source)
    void this.round.start(id, this.source, this.plays, {
      ability: this.ability,
      seed: this.seed,
      ...(this.fault ? { mistake: { code: this.fault, times: this.times } } : {}),
    })
  }

  record(by: Source) {
    this.source = by
    if (this.round.run && this.round.run.source !== by) this.round.run = null
  }

  strike(hand: string, page: number) {
    this.round.hit(hand, page)
    this.pressed = hand
    setTimeout(() => (this.pressed = ''), 110)
  }
}
