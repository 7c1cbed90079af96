<!-- Gives a drill to people, a press each or to all who do not have it, each on a bag of its kind; what came of it stands beside each. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { count } from '../format'
  import Button from '../ui/Button.svelte'
  import Over from '../ui/Over.svelte'
  import Problem from '../ui/Problem.svelte'

  let { drill, onleave }: { drill: Schemas['Drill']; onleave: () => void } = $props()
  const act = new Act(useQueryClient())
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const bags = createQuery(() => ({
    queryKey: ['rigs'],
    queryFn: () => ask(api.GET('/api/rigs')),
    select: (all) => all.filter((b) => b.doc.kind === drill.kind),
  }))
  // svelte-ignore state_referenced_locally -- who had it when this was opened
  const had = new Set((drill.holders ?? []).map((h) => h.traineeId))
  let came = $state<Record<string, Schemas['GivenOut']>>({})
  const has = (id: string) => had.has(id) || !!came[id]?.assignmentId
  const without = $derived((people.data ?? []).filter((t) => !has(t.id)))
  let rigId = $state('')

  async function give(to: Schemas['Trainee'][]) {
    const body = { people: to.map((t) => t.id), ...(rigId ? { rigId } : {}) }
    const at = { params: { path: { id: drill.id } }, body }
    const given = await act.do('give', () => ask(api.POST('/api/drills/{id}/give', at)), {
      said: `${drill.name} is given to ${to.length === 1 ? to[0]!.name : count(to.length, 'person', 'people')}.`,
      undo: (list) => Promise.all(list.filter((g) => g.assignmentId).map((g) => take(g.assignmentId))),
      undone: `${drill.name} is taken back.`,
      unchanged: 'Nobody was given anything.',
    })
    for (const g of given ?? []) came[g.traineeId] = g
  }
  const take = (id: string) => ask(api.DELETE('/api/assignments/{id}', { params: { path: { id } } }))
</script>

<Over {onleave} title="Give {drill.name}">
  <ul class="mt-3">
    {#each people.data ?? [] as t (t.id)}
      <li class="flex min-h-12 items-center justify-between gap-3 border-b border-rope py-0.5">
        <span>
          {t.name}
          {#if has(t.id)}<b>has it.</b>{:else if came[t.id]}<b>does not have it.</b>{/if}
          {#if came[t.id]?.why}<span class="block text-sm text-soft">{came[t.id]!.why}</span>{/if}
        </span>
        {#if !has(t.id)}
          <Button small disabled={act.busy !== ''} aria-label="Give to {t.name}" onclick={() => give([t])}>Give</Button>
        {/if}
      </li>
    {/each}
  </ul>
  <label class="mt-3 block">
    <span class="label">On which bag</span>
    <select class="input mt-1" bind:value={rigId}>
      <option value="">Each on their last bag of this kind</option>
      {#each bags.data ?? [] as b (b.id)}<option value={b.id}>{b.name}</option>{/each}
    </select>
  </label>
  <Problem text={act.problem} />
  <div class="mt-4 flex gap-2">
    <Dialog.Close class="button main">Done</Dialog.Close>
    {#if without.length > 1}
      <Button disabled={act.busy !== ''} onclick={() => give(without)}>Give to all {without.length} without it</Button>
    {/if}
  </div>
</Over>
