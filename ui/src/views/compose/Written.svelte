<!-- The line as it is written: typed or picked, with how it was read. -->
<script lang="ts">
  import { upper } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import LineInput from '../../lib/ui/LineInput.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet }: { sheet: Sheet } = $props()
  const c = $derived(sheet.composed)
  const signs: Record<string, string> = { '|': '| next part', '!': '! power shot' }
  // Figures are read at a glance, words need less room.
  const look = (text: string, strike: boolean) =>
    `!min-h-8 !px-[5px] ${/^.{1,2}$/.test(text) ? '!min-w-8' : ''} ${strike ? '!border-strike text-strike' : ''}`
</script>

<label class="mt-2 block">
  <span class="label sr-only">What is thrown</span>
  <LineInput
    bind:field={sheet.field}
    text={sheet.text}
    wrong={sheet.misread !== ''}
    place={sheet.misread ? (sheet.whatIf.refusal?.place ?? null) : null}
    describedby="said"
    onchange={(text) => sheet.typed(text)} />
</label>
<div class="mt-1 flex flex-wrap items-center gap-x-4">
  <div class="flex gap-[3px] max-sm:overflow-x-auto sm:flex-wrap" role="group" aria-label="Moves to pick">
    {#each c?.picks ?? [] as m (m.text)}
      <Button
        small
        class={look(m.text, m.strike)}
        aria-label={signs[m.text] ?? m.text}
        onclick={() => sheet.pick(m.text)}>{m.text}</Button>
    {/each}
  </div>
  <div
    id="said"
    class="min-h-6 min-w-60 flex-1 text-sm {sheet.misread ? 'font-semibold' : 'text-soft'}"
    role={sheet.misread ? 'alert' : undefined}>
    {#if sheet.misread}{sheet.misread}{:else if c}
      {c.canonical === sheet.text ? '' : `Read as ${c.canonical}: `}{c.call}.
      {#each c.notes as n (n.column)}{' '}<b>{upper(n.said)}</b> is read as {n.read}, {n.why}.
      {/each}
    {/if}
  </div>
</div>
