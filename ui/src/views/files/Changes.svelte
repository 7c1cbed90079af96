<!-- What a file changes, or would change, thing by thing: first what is new and what becomes another, last what is here already. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { count, upper } from '../../lib/format'

  type Change = Schemas['Brought']
  let { changes, dry }: { changes: Change[]; dry: boolean } = $props()
  const many = 300 // rows are shown at once
  const does: { does: Change['does']; would: string; done: string }[] = [
    { does: 'changed', would: 'Would become what the file has', done: 'Became what the file has' },
    { does: 'differs', would: 'Differ here, and would stay', done: 'Differ here, and stayed' },
    { does: 'added', would: 'Would be added', done: 'Added' },
    { does: 'same', would: 'Here already', done: 'Here already' },
  ]
  const parts = $derived(
    does
      .map((d) => ({ ...d, list: changes.filter((c) => c.does === d.does) }))
      .filter((d) => d.list.length > 0)
      .map((d) => ({ ...d, sum: d.list.reduce((n, c) => n + c.count, 0) })),
  )
</script>

{#each parts as part (part.does)}
  <details class="seam mt-4 pt-2" open={part.does !== 'same'}>
    <summary class="cursor-pointer text-lg font-bold"
      >{dry ? part.would : part.done} <span class="font-normal text-soft">{part.sum}</span></summary>
    <table class="mt-1 w-full max-w-4xl table-fixed text-left">
      <colgroup><col class="w-28 sm:w-36" /><col /><col class="w-2/5 sm:w-1/2" /></colgroup>
      <thead class="sr-only"><tr><th>What</th><th>Name</th><th>Of it</th></tr></thead>
      <tbody>
        {#each part.list.slice(0, many) as c, i (i)}
          <tr class="border-b border-rope">
            <td class="py-1.5 pr-4 align-top text-soft">{upper(c.what)}</td>
            <td class="py-1.5 pr-4 align-top font-semibold"
              >{c.name}{#if c.count > 1}<span class="font-normal text-soft"
                  >, {count(c.count, 'of them', 'of them')}</span
                >{/if}</td>
            <td class="py-1.5 align-top text-sm text-soft">{c.detail ?? ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if part.list.length > many}<p class="mt-1 text-soft">And {part.list.length - many} more.</p>{/if}
  </details>
{/each}
