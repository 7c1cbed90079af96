<!-- How the line is thrown, as a sentence in which all that can be set of it on this bag is set. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import Cues from '../../lib/drills/Cues.svelte'
  import { patchOf } from '../../lib/drills/patch'
  import { count, duration } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Sentence from '../../lib/say/Sentence.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Tied from '../../lib/ui/Tied.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = { sheet: Sheet; p: Schemas['Answer']; c: Schemas['SwingLine'] }
  let { sheet, p, c }: Props = $props()
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
    <p class="mt-1 text-sm text-soft">{count(c.times, 'rep')} in {duration(p.seconds)}.</p>
  {:else if (k.field === 'cues.counters' || (k.field === 'cues' && k.value === 'attacks')) && sheet.doc?.cues}
    <Cues cues={sheet.doc.cues} onpatch={sheet.set} />
  {/if}
{/snippet}

<Sentence
  label="How it is thrown"
  said={p.said}
  knobs={p.knobs}
  pending={sheet.whatIf.pending}
  refused={sheet.refusedOf}
  replaced={tied ? 'fist' : ''}
  instead={force}
  {after}
  onpatch={sheet.set} />
<Problem text={sheet.elsewhere} />
