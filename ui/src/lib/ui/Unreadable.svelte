<!-- Rows that are kept and could not be read: each with its reason, to be downloaded as it is, or removed. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import Button from './Button.svelte'

  type Row = Schemas['NotRead']
  /** Of which kinds they are told; with an id, that one alone. */
  let { of, id = '' }: { of: Row['kind'][]; id?: string } = $props()
  const act = new Act(useQueryClient())
  const all = createQuery(() => ({ queryKey: ['unreadable'], queryFn: () => ask(api.GET('/api/unreadable')) }))
  const rows = $derived((all.data ?? []).filter((r) => of.includes(r.kind) && (!id || r.id === id)))
  const at = (r: Row) => ({ params: { path: { id: r.id } } })
  const back: Record<Row['kind'], (r: Row) => Promise<unknown>> = {
    bag: (r) => ask(api.POST('/api/rigs/{id}/restore', at(r))),
    drill: (r) => ask(api.POST('/api/drills/{id}/restore', at(r))),
    assignment: (r) => ask(api.POST('/api/assignments/{id}/restore', at(r))),
    session: (r) => ask(api.POST('/api/sessions/{id}/restore', at(r))),
    class: (r) => ask(api.POST('/api/hours/{id}/restore', at(r))),
    date: (r) => ask(api.POST('/api/dates/{id}/restore', at(r))),
    round: (r) => ask(api.POST('/api/runs/{id}/restore', at(r))),
  }
  const remove = (r: Row) =>
    act.do(
      r.id,
      () => ask(api.POST('/api/unreadable/{kind}/{id}/remove', { params: { path: { kind: r.kind, id: r.id } } })),
      { said: `${r.name} is removed.`, what: 'remove', undo: () => back[r.kind](r) },
    )
</script>

{#if rows.length > 0}
  <ul class="mt-4 border-l-4 border-ink pl-4" aria-label="Could not be read">
    {#each rows as r (r.id)}
      <li class="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 py-2">
        <div class="max-w-prose min-w-0">
          <p><b>{r.name}</b> could not be read.</p>
          <p class="text-sm break-words text-soft">{r.why}</p>
        </div>
        <span class="flex flex-wrap gap-2">
          <Button small href="/api/unreadable/{r.kind}/{r.id}/file" download aria-label="Download {r.name} as it is"
            >Download as it is</Button>
          <Button small disabled={act.busy !== ''} onclick={() => remove(r)} aria-label="Remove {r.name}"
            >Remove</Button>
        </span>
      </li>
    {/each}
  </ul>
{/if}
