<!-- The strike that is asked about, by its tempo or its force, and what it takes. -->
<script lang="ts">
  import { push } from 'svelte-spa-router'
  import type { Schemas } from '../../lib/api/client'
  import { shownAs } from '../../lib/bench/kinds.svelte'
  import { ms, range, speed } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Field from '../../lib/ui/Field.svelte'
  import FigureRow from '../../lib/ui/FigureRow.svelte'
  import TempoTable from '../../lib/ui/TempoTable.svelte'
  import type { Desk } from './desk.svelte'

  let { desk, a }: { desk: Desk; a: Schemas['Sheet'] } = $props()
  const units = $derived(session.units)
  const speedBag = $derived(desk.kind === 'speed')
  const slipBag = $derived(desk.kind === 'slip')
  const behind = $derived(a.tempos.find((t) => t.rebounds === desk.rebounds)?.face === 'behind')
  const counts = $derived(
    speedBag
      ? { label: 'Rebounds to the next strike', by: 'rebound count' }
      : slipBag
        ? { label: 'Slip every … pass', by: 'passes let by' }
        : { label: 'Strike every … return', by: 'return' },
  )
  const parity = $derived(
    behind ? 'An even count brings the bag to a hand behind it.' : 'An odd count brings the bag back to the front.',
  )
  const force = $derived(
    slipBag
      ? { label: 'Drawn back', min: 0.05, step: 0.01, ...shownAs('height', units) }
      : { label: 'Strike: speed of the bag after it', min: 0.1, step: 0.05, unit: 'm/s', factor: 1, digits: 2 },
  )
  const figures = $derived.by(() => {
    if (!slipBag)
      return [
        { name: 'Window to strike in', text: a.window ? ms(a.window) : '–' },
        { name: `Fist speed, ${a.effort || 'none reaches it'}`, text: a.fist ? speed(a.fist, units) : '–' },
      ]
    const first = a.cycle.passes[0]
    return [
      {
        name: `Time to begin the ${desk.place.plane === 'across' ? 'roll' : 'slip'}`,
        text: first && first.window > 0 ? ms(first.window) : 'none',
      },
      { name: 'Speed at the first pass', text: speed(a.cycle.speed, units) },
    ]
  })
  const drill = () =>
    push(
      `/drills/new?rig=${desk.saved!.id}&rebounds=${desk.rebounds}&tempo=${Math.round(a.tempo)}&angle=${desk.strikeAngle}`,
    )
</script>

<Choice
  label={counts.label}
  value={desk.rebounds}
  options={[1, 2, 3, 4, 5].map((n) => ({ value: n, text: String(n) }))}
  onchange={(n) => (desk.rebounds = n)}
  note={speedBag ? parity : ''} />
<Field
  label="Tempo"
  value={desk.wanted.tempo ?? a.tempo}
  min={5}
  max={700}
  step={1}
  unit="/min"
  onchange={(tempo) => (desk.wanted = { tempo })}
  problem={desk.refused('tempo')}
  note={`Within reach with this count: ${range(a.slowest, a.fastest)}.`} />
<Field
  {...force}
  value={desk.wanted.launch ?? a.launch ?? a.drawn}
  max={Math.max(0.5, a.most)}
  problem={desk.refused('launch') || desk.refused('pull')}
  onchange={(launch) => (desk.wanted = { launch })}
  note={speedBag ? `Softer than ${a.least.toFixed(2)} m/s it does not reach the board.` : ''} />
{#if speedBag}
  <Field
    label="Strike angle"
    value={desk.strikeAngle}
    min={5}
    max={60}
    step={1}
    unit="°"
    problem={desk.refused('strikeAngle')}
    onchange={(v) => (desk.strikeAngle = v)}
    note="On the far side, before it hangs straight. 25° is assumed." />
{/if}
<FigureRow {figures} class="grid-cols-2 gap-x-6 gap-y-3 py-2" />
<TempoTable
  rows={a.tempos}
  tempo={a.tempo}
  rebounds={desk.rebounds}
  caption={`Tempos within reach by ${counts.by}, a minute`}
  onchoose={(n) => (desk.rebounds = n)} />
{#if speedBag && desk.saved}
  <Button class="mt-4" disabled={!a.feasible || desk.changed || behind} onclick={drill}>Make a drill of this</Button>
  {#if desk.changed}<p class="mt-1 text-sm text-soft">Save the measures first.</p>{/if}
{/if}
