<!-- Gives a drill to several people at once, each on a bag of its kind, and says what came of it. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'
  import Over from '../ui/Over.svelte'

  let { drill, onleave }: { drill: Schemas['Drill']; onleave: () => void } = $props()
  const act = new Act(useQueryClient())
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const bags = createQuery(() => ({
    queryKey: ['rigs'],
    queryFn: () => ask(api.GET('/api/rigs')),
    select: (all) => all.filter((b) => b.doc.kind === drill.kind),
  }))
  const has = $derived(new Set((drill.holders ?? []).map((h) => h.traineeId)))
  const without = $derived((people.data ?? []).filter((t) => !has.has(t.id)).map((t) => t.id))
  let chosen = $state<string[]>([])
  const everybody = $derived(without.length > 0 && without.every((id) => chosen.includes(id)))
  let rigId = $state('')
  let came = $state<Schemas['GivenOut'][] | null>(null)

  async function give() {
    const body = { people: chosen, ...(rigId ? { rigId } : {}) }
    came =
      (await act.do('give', () =>
        ask(api.POST('/api/drills/{id}/give', { params: { path: { id: drill.id } }, body })),
      )) ?? null
  }
</script>

<Over {onleave} title="Give {drill.name}">
  {#if came}
    <ul class="mt-3">
      {#each came as g (g.traineeId)}
        <li class="border-b border-rope py-2">
          <b>{g.trainee}</b>
          {g.assignmentId ? 'has it.' : 'does not have it.'}
          {#if g.why}<span class="block text-sm text-soft">{g.why}</span>{/if}
        </li>
      {/each}
    </ul>
    <Dialog.Close class="button main mt-4">Done</Dialog.Close>
  {:else}
    <fieldset class="mt-3">
      <legend class="label">To whom</legend>
      <label class="flex min-h-11 items-center gap-3 border-b border-ink font-bold">
        <input
          type="checkbox"
          class="size-5 accent-ink"
          checked={everybody}
          onchange={() => (chosen = everybody ? [] : without)} />
        <span>Everybody{has.size > 0 ? ' who does not have it' : ''}</span>
      </label>
      {#each people.data ?? [] as t (t.id)}
        <label class="flex min-h-11 items-center gap-3 border-b border-rope">
          <input type="checkbox" class="size-5 accent-ink" value={t.id} bind:group={chosen} />
          <span
            >{t.name}{#if has.has(t.id)}<span class="text-soft">, has it already</span>{/if}</span>
        </label>
      {/each}
    </fieldset>
    <label class="mt-3 block">
      <span class="label">On which bag</span>
      <select class="input mt-1" bind:value={rigId}>
        <option value="">Each on the one they were on last</option>
        {#each bags.data ?? [] as b (b.id)}<option value={b.id}>{b.name}</option>{/each}
      </select>
    </label>
    <div class="mt-4 flex gap-2">
      <Button main disabled={chosen.length === 0 || act.busy !== ''} onclick={give}>Give it</Button>
      <Dialog.Close class="button">Leave it</Dialog.Close>
    </div>
  {/if}
</Over>
