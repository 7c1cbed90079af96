<!-- People who were archived: they can be brought back, or opened to be erased. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'

  const act = new Act(useQueryClient())
  const away = createQuery(() => ({
    queryKey: ['trainees', 'archived'],
    queryFn: () => ask(api.GET('/api/trainees', { params: { query: { archived: true } } })),
  }))
  const bringBack = (t: Schemas['Trainee']) =>
    act.do(t.id, () => ask(api.POST('/api/trainees/{id}/restore', { params: { path: { id: t.id } } })), {
      said: `${t.name} is back.`,
    })
</script>

{#if away.data?.length}
  <details class="mt-8">
    <summary class="cursor-pointer font-semibold">Archived, {away.data.length}</summary>
    <ul class="mt-1">
      {#each away.data as t (t.id)}
        <li class="flex items-center justify-between gap-3 border-b border-rope py-2">
          <a href="#/people/{t.id}">{t.name}</a>
          <Button disabled={act.busy !== ''} onclick={() => bringBack(t)} aria-label="Bring back {t.name}"
            >Bring back</Button>
        </li>
      {/each}
    </ul>
  </details>
{/if}
