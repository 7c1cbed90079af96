<!-- Serves the coach at the desk: the gym's sessions, those that come with the product, and a combination built up. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { push } from 'svelte-spa-router'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { kinds } from '../../lib/bench/kinds.svelte'
  import Unsaved from '../../lib/drafts/Unsaved.svelte'
  import Files from '../../lib/files/Files.svelte'
  import { sessionFiles } from '../../lib/files/items'
  import { upper } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'

  type Plan = Schemas['SessionPlan']
  const act = new Act(useQueryClient())
  let archived = $state(false)
  const sessions = createQuery(() => ({
    queryKey: ['sessions', archived],
    queryFn: () => ask(api.GET('/api/sessions', { params: { query: { archived } } })),
  }))
  let text = $state('')
  let bag = $state('hanging')
  const at = (p: Plan) => ({ params: { path: { id: p.id } } })
  const bringBack = (p: Plan) => ask(api.POST('/api/sessions/{id}/restore', at(p)))
  const archive = (p: Plan) =>
    act.do(p.id, () => ask(api.DELETE('/api/sessions/{id}', at(p))), {
      said: `${p.session.name} is archived.`,
      undo: () => bringBack(p),
    })
</script>

<svelte:head><title>Sessions · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">{archived ? 'Archived sessions' : 'Sessions'}</h1>
  <span class="flex gap-2"><Button href="#/class">To the class</Button></span>
</div>
<Unsaved sort="sessions" />
{#if !archived}
  <form
    class="mt-4 flex flex-wrap items-end gap-3"
    onsubmit={(e) => {
      e.preventDefault()
      if (text.trim()) void push(`/sessions/new?text=${encodeURIComponent(text)}&bag=${bag}`)
    }}>
    <label class="block min-w-64 flex-1">
      <span class="label">Build up a long combination over rounds</span>
      <input
        class="input mt-1 text-xl! font-bold!"
        spellcheck="false"
        autocomplete="off"
        maxlength="2000"
        placeholder="1-1-2 | duck - 2-3-2! | slip lead - 3-2"
        bind:value={text} />
    </label>
    <label class="block">
      <span class="label">on the</span>
      <select class="input mt-1 !w-44" bind:value={bag}>
        {#each kinds.all as k (k.kind)}<option value={k.kind}>{k.name}</option>{/each}
      </select>
    </label>
    <Button main type="submit" disabled={!text.trim()}>Build it up</Button>
  </form>
{/if}
{#if sessions.data && !archived}<Unreadable of={['session']} />{/if}
{#if sessions.isError}
  <Notice title="The sessions could not be read" text={sessions.error.message} again={() => sessions.refetch()} />
{:else}
  <ul class="seam mt-6">
    {#each sessions.data?.own ?? [] as p (p.id)}
      <li class="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 border-b border-rope py-3">
        <div>
          {#if archived}<p class="font-bold">{p.session.name}</p>{:else}<a class="font-bold" href="#/sessions/{p.id}"
              >{p.session.name}</a
            >{/if}
          <p class="text-sm text-soft">{p.sentence}</p>
        </div>
        <span class="flex flex-wrap gap-2">
          {#if archived}
            <Button
              disabled={act.busy !== ''}
              onclick={() => act.do(p.id, () => bringBack(p), { said: `${p.session.name} is back.` })}
              aria-label="Bring back {p.session.name}">Bring back</Button>
          {:else}
            <Button href="#/class?session={p.id}" aria-label="Plan a class of {p.session.name}">Plan a class</Button>
            <Files quiet of={p.session.name} items={sessionFiles(p.id)} />
            <Button quiet disabled={act.busy !== ''} onclick={() => archive(p)} aria-label="Archive {p.session.name}"
              >Archive</Button>
          {/if}
        </span>
      </li>
    {:else}
      {#if sessions.data}<li class="py-3 text-soft">
          {archived ? 'Nothing is archived.' : 'None of your own yet: begin with one of these.'}
        </li>{/if}
    {/each}
  </ul>
  {#if !archived && sessions.data}
    <h2 class="mt-8 text-xl font-bold">Ready made</h2>
    <ul class="mt-2 grid gap-x-8 sm:grid-cols-2">
      {#each sessions.data?.templates ?? [] as t (t.key)}
        <li class="flex items-center justify-between gap-3 border-b border-rope py-2">
          <div>
            <a class="font-bold" href="#/sessions/new?template={t.key}">{t.session.name}</a>
            <p class="text-sm text-soft">{upper(t.for)}. {t.sentence}</p>
          </div>
        </li>
      {/each}
    </ul>
  {/if}
  <p class="mt-8 {sessions.data ? '' : 'hidden'}">
    <Button quiet onclick={() => (archived = !archived)}
      >{archived ? 'Back to the sessions' : 'Show what is archived'}</Button>
  </p>
{/if}
