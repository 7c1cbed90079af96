<!-- What is in the log of a class: for each person, the rounds on bags and off them. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '../../lib/api/client'
  import { count } from '../../lib/format'
  import Rate from '../../lib/ui/Rate.svelte'

  let { theClass }: { theClass: Schemas['HeldClass'] } = $props()
  const client = useQueryClient()
  async function rate(id: string, body: Schemas['Rating']) {
    await ask(api.PUT('/api/turns/{id}/rating', { params: { path: { id } }, body }))
    await client.invalidateQueries()
  }
  const sum = (list: Schemas['TurnOut'][], of: 'got' | 'failed') => list.reduce((n, d) => n + d[of], 0)
  const rows = $derived(
    theClass.plan.people
      .map((p) => {
        const own = theClass.done.filter((d) => d.traineeId === p.id)
        const bags = Object.entries(
          Object.groupBy(
            own.filter((d) => d.rigId),
            (d) => d.rigId,
          ),
        ).map(([id, list]) => ({
          bag: theClass.plan.bags.find((b) => b.id === id)?.name ?? '',
          n: new Set((list ?? []).map((d) => d.lap)).size,
        }))
        return {
          ...p,
          bags,
          turns: own.filter((d) => d.rigId),
          off: new Set(own.filter((d) => !d.rigId).map((d) => d.lap)).size,
          got: sum(own, 'got'),
          failed: sum(own, 'failed'),
        }
      })
      .filter((r) => r.bags.length + r.off > 0),
  )
</script>

<section class="mt-8" aria-labelledby="done">
  <h2 id="done" class="text-xl font-bold">Done so far</h2>
  {#if theClass.sum}<p class="mt-1 max-w-prose">{theClass.sum}</p>{/if}
  <ul class="mt-1 grid gap-x-8 sm:grid-cols-2">
    {#each rows as r (r.id)}
      <li class="border-b border-rope py-1">
        <a class="font-semibold" href="#/people/{r.id}">{r.name}</a>{r.gone ? ', left early' : ''}:
        {r.bags.map((b) => `${count(b.n, 'round')} on the ${b.bag}`).join(', ')}{r.off > 0
          ? `${r.bags.length > 0 ? ', ' : ''}${r.off} off the bags`
          : ''}{r.got + r.failed > 0 ? `; ${r.got} of ${r.got + r.failed} tries came off` : ''}
        {#if r.turns.length > 0}
          <details class="text-sm">
            <summary class="cursor-pointer text-soft"
              >{r.turns.some((t) => t.rating) ? 'What you said of it' : 'Say how it went'}</summary>
            <ul class="pl-4">
              {#each r.turns as t (t.id)}
                <li class="py-1">
                  Round {t.round + 1}, {t.title}
                  <Rate
                    rating={t.rating ?? null}
                    name="round {t.round + 1} of {r.name}"
                    save={(body) => rate(t.id, body)} />
                </li>
              {/each}
            </ul>
          </details>
        {/if}
      </li>
    {/each}
  </ul>
</section>
