<!-- The line at a glance: how it flows, by hand and height, its cautions, and what can be made of it. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { count } from '../../lib/format'
  import type { Preview } from './preview.svelte'

  type Props = { c: Schemas['SwingLine']; preview: Preview; onturn: (way: 'mirror' | 'counterpart') => void }
  let { c, preview, onturn }: Props = $props()
  const b = $derived(c.balance)
  const breaks = $derived(c.flow.filter((m) => !m.hint))
  const flows = $derived(
    breaks.length === 0
      ? 'Every move flows from the one before.'
      : `${c.moves[breaks[0]!.move]?.said}, move ${breaks[0]!.move + 1}: ${breaks[0]!.reason}${breaks.length > 1 ? `; and ${count(breaks.length - 1, 'more place')} below` : ''}.`,
  )
</script>

<section class="text-sm lg:col-start-2 lg:row-start-1" aria-label="The line at a glance">
  <p class="font-semibold">{flows}</p>
  <p class="text-soft">
    {b.leadHand} lead, {b.rearHand} rear; {b.head} to the head, {b.body} to the body{b.slipsLead + b.slipsRear > 0
      ? `; ${b.slipsLead} slips to the lead side, ${b.slipsRear} to the rear`
      : ''}.
  </p>
  {#if c.flush.length > 0}
    <p class="text-soft">
      Lands flush on this bag: {c.flush.join(', ')}.{c.glances.length > 0
        ? ` Here the ${c.glances.join(', ')} ${c.glances.length === 1 ? 'does' : 'do'} not.`
        : ''}
    </p>
  {/if}
  {#each c.cautions as caution (caution)}<p class="mt-1 border-l-4 border-ink pl-2"><b>Caution.</b> {caution}</p>{/each}
  <p class="mt-1 flex flex-wrap gap-x-4">
    <button class="part" disabled={preview.playing} onclick={() => preview.play(c)}
      >{preview.playing ? 'Playing…' : 'Listen'}</button>
    <button class="part" onclick={() => onturn('mirror')} title="{c.mirror} (key M)">Mirror</button>
    <button class="part" onclick={() => onturn('counterpart')} title="{c.counterpart} (key C)">Counterpart</button>
  </p>
</section>
