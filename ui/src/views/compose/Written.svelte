<!-- The line as it is written: typed or picked, with how it was read. -->
<script lang="ts">
  import { upper } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import LineInput from '../../lib/ui/LineInput.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet }: { sheet: Sheet } = $props()
  const c = $derived(sheet.composed)
  const signs: Record<string, string> = { '|': 'Next part', '!': 'Power shot' }
  // Figures are read at a glance, words need less room.
  const look = (text: string, strike: boolean) =>
    `${/^\w{1,2}$/.test(text) ? '!min-w-9' : 'text-sm'} ${strike ? '!border-strike text-strike' : ''}`
</script>

<label class="mt-4 block">
  <span class="label">What is thrown</span>
  <LineInput
    bind:field={sheet.field}
    text={sheet.text}
    wrong={sheet.misread !== ''}
    place={sheet.misread ? (sheet.whatIf.refusal?.place ?? null) : null}
    describedby="said"
    onchange={(text) => sheet.typed(text)} />
</label>
<div
  id="said"
  class="mt-1 min-h-6 {sheet.misread ? 'font-semibold' : 'text-soft'}"
  role={sheet.misread ? 'alert' : undefined}>
  {#if sheet.misread}{sheet.misread}{:else if c}
    {c.canonical === sheet.text ? '' : `Read as ${c.canonical}: `}{c.call}.
    {#each c.notes as n (n.column)}{' '}<b>{upper(n.said)}</b> is read as {n.read}, {n.why}.
    {/each}
  {/if}
</div>
<div class="mt-1 flex flex-wrap gap-1" aria-label="Moves to pick">
  {#each c?.picks ?? [] as m (m.text)}
    <Button small class={look(m.text, m.strike)} aria-label={signs[m.text] ?? m.text} onclick={() => sheet.pick(m.text)}
      >{m.text}</Button>
  {/each}
</div>
{#if c && c.flush.length > 0}
  <p class="mt-1 text-sm">
    <b>Lands flush on this bag:</b>
    {c.flush.join(', ')}.
    {#if c.glances.length > 0}
      In this line the {c.glances.join(', ')}
      {c.glances.length === 1 ? 'does' : 'do'} not.
    {/if}
  </p>
{/if}
