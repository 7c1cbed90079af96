<!-- How the line is worked: all that can be set of it on this bag. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import Cues from '../../lib/drills/Cues.svelte'
  import Knobs from '../../lib/drills/Knobs.svelte'
  import { patchOf } from '../../lib/drills/patch'
  import { duration } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Tied from '../../lib/ui/Tied.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = { sheet: Sheet; p: Schemas['Answer']; c: Schemas['Line'] }
  let { sheet, p, c }: Props = $props()
  const drill = $derived(sheet.desk.drill!)
  const tied = $derived(c.ties.length > 0 && c.inside != null)
  const atFist = (k: Schemas['Knob'], fist: number) => sheet.set(patchOf(k.field, Math.round(fist * 100) / 100, k.with))
</script>

{#snippet force(k: Schemas['Knob'])}
  <Tied
    ties={c.ties}
    fist={c.fist}
    inside={c.inside!}
    effort={p.effort}
    units={session.units}
    problem={sheet.outOfReach}
    onfist={(fist) => atFist(k, fist)}
    ontempo={(tempo) => void sheet.atTempo(tempo)} />
{/snippet}
{#snippet after(k: Schemas['Knob'])}
  {#if k.field === 'ends' && !sheet.refused}
    <p class="mt-1 text-sm text-soft">{c.times} repetitions, {duration(p.seconds)} from bell to bell.</p>
  {:else if (k.field === 'cues.counters' || (k.field === 'cues' && k.value === 'attacks')) && sheet.doc?.cues}
    <Cues cues={sheet.doc.cues} onpatch={sheet.set} />
  {/if}
{/snippet}

<section aria-label="How it is worked">
  <Knobs
    knobs={p.knobs}
    refused={sheet.refusedOf}
    replaced={tied ? 'fist' : ''}
    instead={force}
    {after}
    onpatch={sheet.set} />
  <Problem text={sheet.cuesRefused} />
  <label class="mt-2 block">
    <span class="label">Name, if it shall have its own</span>
    <input class="input mt-1" maxlength="120" bind:value={drill.name} placeholder={c.canonical} />
  </label>
</section>
