<!-- How to hang a rig for one person: what to set, where to stand, what room it needs, and what cannot both be had. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { about, type Units } from '../format'
  import Button from '../ui/Button.svelte'
  import { isSet, labelOf, valueOf } from './kinds.svelte'

  type Props = {
    setUp: Schemas['SetUpSheet']
    hung: number
    kind: string
    units: Units
    name: string
    onset?: (changes: Schemas['Setting'][]) => void
  }
  let { setUp, hung, kind, units, name, onset }: Props = $props()

  const moved = $derived(setUp.settings.filter((s) => Math.abs(s.to - s.now) > 1e-6 && isSet(s.field)))
  const c = $derived(setUp.conflict)
  const uses: Record<string, string> = {
    swing: 'for the swing',
    punches: 'for hooks',
    stepBack: 'for a step back',
    circling: 'to circle it',
  }
  const places: Record<string, string> = { beyond: 'behind the bag', beside: 'beside it', behind: 'behind the trainee' }
</script>

{#if setUp.needs === 'height'}
  <p class="text-soft">
    {name ? `The height of ${name} is not entered yet.` : 'Choose who it hangs for.'} Then heights and distances follow.
    <a href="#/people">To the people</a>
  </p>
{:else if setUp.needs}
  <p class="text-soft">Measure first: {labelOf(setUp.needs).toLowerCase()}.</p>
{:else}
  <p>
    The {setUp.point} belongs
    <b
      >{Math.abs(setUp.high - setUp.low) < 0.07
        ? `at ${about((setUp.low + setUp.high) / 2, units)}`
        : `between ${about(setUp.low, units)} and ${about(setUp.high, units)}`}</b
    >,
    {setUp.between}; today it is at {about(setUp.now, units)}.
  </p>
  {#if setUp.move !== 0 && moved.length > 0}
    <dl class="mt-2 grid grid-cols-[1fr_auto_auto] gap-x-4 text-sm">
      {#each moved as s (s.field)}
        <dt>{labelOf(s.field)}</dt>
        <dd class="text-right text-soft">{valueOf(s.field, s.now, units)}</dd>
        <dd class="text-right font-bold">→ {valueOf(s.field, s.to, units)}</dd>
      {/each}
    </dl>
    <p class="mt-2 flex flex-wrap items-center gap-3">
      {#if onset}<Button onclick={() => onset(setUp.settings)}>Use this setting</Button>{/if}
      {#if hung > 0}<span class="text-sm"
          >Hung like this, the same {kind === 'slip' ? 'pull' : 'strike'} gives {Math.round(hung)} a minute.</span
        >{/if}
    </p>
  {/if}
  {#if c}
    <p class="mt-2 border-l-4 border-ink pl-3 text-sm">
      Eye height lies {about(Math.abs(c.off), units)}
      {c.off > 0 ? 'above' : 'below'} the middle of the anchors ({about(c.midway, units)}), where the ball would return
      evenly: you can’t have both{c.anchor === null ? '' : ' with these anchors'}.
      {#if c.uneven !== null}Hung at eye height it comes back {about(Math.abs(c.uneven), units)}
        {c.uneven > 0 ? 'higher' : 'lower'} than struck, at half power.{/if}
      {#if c.anchor !== null}With the lower anchor at {about(c.anchor, units)} above the floor both hold.{/if}
    </p>
  {/if}
  <p class="mt-2 text-sm">
    {setUp.stand > 0.05
      ? `Stand with the head ${about(setUp.stand, units)} from the bag’s middle.`
      : 'Stand with your head under the anchor.'}
  </p>
  {#if setUp.targets.length > 0}
    <p class="mt-2 text-sm">
      Tape two marks: {setUp.targets.map((t) => `${t.name} shots at ${about(t.height, units)}`).join(', ')} above the floor.
      A punch between them is a miss.
    </p>
  {/if}
  <table class="mt-1 w-full text-left text-sm">
    <thead class="text-soft"
      ><tr
        ><th class="font-semibold">Room</th><th class="text-right font-semibold">needs</th><th
          class="text-right font-semibold">has</th
        ></tr
      ></thead>
    <tbody>
      {#each setUp.room as r (r.where + r.for)}
        <tr class={r.have > 0 && r.have < r.need ? 'font-bold' : ''}
          ><td>{places[r.where]}, {uses[r.for]}</td><td class="text-right">{about(r.need, units)}</td><td
            class="text-right">{r.have > 0 ? about(r.have, units) : 'not measured'}</td
          ></tr>
      {/each}
    </tbody>
  </table>
{/if}
