<!-- What the bag does, in a sentence, and what would help where it does not. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { labelOf, valueOf } from '../../lib/bench/kinds.svelte'
  import { length } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import type { Desk } from './desk.svelte'

  type Change = Schemas['Change']
  let { desk, a }: { desk: Desk; a: Schemas['Sheet'] } = $props()
  const units = $derived(session.units)
  const cords = $derived(a.change.filter((c) => c.what.includes('.'))) // both are wound in one go

  function take(c: Change) {
    if (c.what === 'rebounds') desk.rebounds = c.to
    else if (c.what === 'tempo') desk.wanted = { tempo: c.to }
    else if (c.what === 'launch') desk.wanted = { launch: c.to }
    else desk.set([{ field: c.what, to: c.to }])
  }
  function told(c: Change) {
    if (c.what === 'rebounds') return `Count ${c.to}`
    if (c.what === 'tempo') return `Take ${c.to} a minute`
    if (c.what === 'launch') return 'Strike it softer'
    return `${labelOf(c.what)}: ${valueOf(c.what, c.to, units)}`
  }
</script>

<h1
  class="mt-4 min-h-[2.3em] text-2xl leading-tight font-extrabold tracking-tight text-wrap sm:text-[1.7rem]"
  aria-live="polite">
  {a.sentence}
</h1>
{#if a.change.length > 0}
  <div class="mt-2 flex flex-wrap gap-2" aria-label="What would help">
    {#each a.change.filter((c) => !c.what.includes('.')) as c (c.what)}
      {#if c.what === 'bagLength'}
        <span class="self-center text-sm text-soft">or hang a bag of {length(c.to, units)}: {c.reason}</span>
      {:else}
        <Button title={c.reason} onclick={() => take(c)}>{told(c)}</Button>
      {/if}
    {/each}
    {#if cords.length > 0}
      <Button title={cords[0]!.reason} onclick={() => desk.set(cords.map((c) => ({ field: c.what, to: c.to })))}>
        {a.tempo > a.fastest ? 'Wind both cords up' : 'Let both cords out'}
      </Button>
    {/if}
  </div>
{/if}
