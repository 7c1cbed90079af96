<!-- The measures of the bag and of its place, as the core lists them for its kind. -->
<script lang="ts">
  import { valueIn } from '../../lib/bench/fields'
  import { belongs, shownAs, type Field } from '../../lib/bench/kinds.svelte'
  import { session } from '../../lib/session.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Measure from '../../lib/ui/Field.svelte'
  import type { Desk } from './desk.svelte'

  let { desk, which }: { desk: Desk; which: 'measures' | 'around' } = $props()
  const fields = $derived(
    which === 'around' ? desk.model.around : desk.model.measures.filter((f) => belongs(f, desk.doc)),
  )
  const yesOrNo = [
    { value: 'no', text: 'No' },
    { value: 'yes', text: 'Yes' },
  ]
</script>

{#snippet row(f: Field)}
  {@const v = valueIn(desk.doc, desk.place, f.field)}
  {#if f.quantity === 'words'}
    <Choice
      label={f.label}
      value={String(v || f.options[0]!.value)}
      options={f.options}
      note={f.help}
      onchange={(word) => desk.choose(f, word)} />
  {:else if f.quantity === 'flag'}
    <Choice
      label={f.label}
      value={v ? 'yes' : 'no'}
      options={yesOrNo}
      note={f.help}
      onchange={(word) => desk.choose(f, word === 'yes')} />
  {:else}
    <Measure
      label={f.label}
      value={desk.value(f.field)}
      min={f.least}
      max={f.most}
      step={f.step}
      {...shownAs(f.quantity, session.units)}
      problem={desk.refused(f.field)}
      note={f.help}
      onchange={(to) => desk.set([{ field: f.field, to }])} />
  {/if}
{/snippet}

{#each fields as f (f.field)}{@render row(f)}{/each}
