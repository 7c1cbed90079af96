<!-- What the strike that is asked about takes, and the tempos within reach. -->
<script lang="ts">
  import { push } from 'svelte-spa-router'
  import type { Schemas } from '../../lib/api/client'
  import { ms, speed } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import FigureRow from '../../lib/ui/FigureRow.svelte'
  import TempoTable from '../../lib/ui/TempoTable.svelte'
  import type { Desk } from './desk.svelte'

  let { desk, a }: { desk: Desk; a: Schemas['Sheet'] } = $props()
  const units = $derived(session.units)
  const speedBag = $derived(desk.kind === 'speed')
  const slipBag = $derived(desk.kind === 'slip')
  const behind = $derived(a.tempos.find((t) => t.rebounds === desk.rebounds)?.face === 'behind')
  const by = $derived(speedBag ? 'rebounds' : slipBag ? 'passes let through' : 'return')
  const figures = $derived.by(() => {
    if (!slipBag)
      return [
        { name: 'Window', text: a.window ? ms(a.window) : '–' },
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

<FigureRow {figures} class="grid-cols-2 gap-x-6 gap-y-3 py-2" />
<TempoTable
  rows={a.tempos}
  tempo={a.tempo}
  rebounds={desk.rebounds}
  caption={`Tempos this bag allows (strikes a minute), by ${by}`}
  onchoose={(n) => (desk.rebounds = n)} />
{#if speedBag && desk.saved}
  <Button class="mt-4" disabled={!a.feasible || desk.changed || behind} onclick={drill}>Make a drill from this</Button>
  {#if desk.changed}<p class="mt-1 text-sm text-soft">Save the measures first.</p>{/if}
{/if}
