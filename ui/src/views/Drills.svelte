<!-- Serves the coach at the desk: who has been given what. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../lib/api/client'
    import Notice from '../lib/ui/Notice.svelte'

  const client = useQueryClient()
  const drills = createQuery(() => ({ queryKey: ['drills'], queryFn: () => ask(api.GET('/api/drills')) }))
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const bags = createQuery(() => ({ queryKey: ['rigs'], queryFn: () => ask(api.GET('/api/rigs')) }))
  const person = (id: string) => people.data?.find((t) => t.id === id)?.name ?? ''
  const bag = (id: string) => bags.data?.find((b) => b.id === id)?.name ?? ''

  async function retire(d: Schemas['Drill']) {
    try {
      await ask(api.DELETE('/api/drills/{id}', { params: { path: { id: d.id } } }))
      await client.invalidateQueries()
      toast(`${d.name} is put away; its rounds stay in the log.`, {
        action: { label: 'Undo', onClick: async () => { await ask(api.POST('/api/drills/{id}/restore', { params: { path: { id: d.id } } })); await client.invalidateQueries() } },
      })
    } catch (e) {
      toast((e as Error).message)
    }
  }
</script>

<svelte:head><title>Drills · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">Drills</h1>
  <span class="flex flex-wrap gap-2"><a class="button" href="#/library">Library</a><a class="button" href="#/compose/new">Compose a combination</a><a class="button main" href="#/drills/new">Make a drill</a></span>
</div>
{#if drills.isError}
  <Notice title="The drills could not be read" text={drills.error.message} again={() => drills.refetch()} />
{:else if drills.data?.length === 0}
  <Notice title="No drill yet." text="A drill is what one person does on one bag: which hand, how many rebounds, how fast, how long." />
{:else}
  <ul class="seam mt-6">
    {#each drills.data ?? [] as d (d.id)}
      <li class="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-2 border-b border-rope py-3">
        <div>
          <p class="font-bold">{person(d.traineeId)} <span class="font-normal">on the {bag(d.rigId)}</span></p>
          <p class="text-sm text-soft">{d.name}: {(d.figures ?? []).map((f) => (f.label === 'bell to bell' ? f.value : `${f.value} ${f.label}`)).join(', ')}</p>
        </div>
        <span class="flex gap-2">
          <a class="button" href="#/run/{d.id}">Run</a>
          <a class="button max-sm:!hidden" href="#/{d.doc.text === undefined ? 'drills' : 'compose'}/{d.id}">Change</a>
          <button class="button quiet max-sm:!hidden" onclick={() => retire(d)}>Put away</button>
        </span>
      </li>
    {/each}
  </ul>
{/if}
