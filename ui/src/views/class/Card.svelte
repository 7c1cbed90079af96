<!-- A class on one page: for the wall, who is where and what is hung when; for a pocket, the same in small. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { onMount } from 'svelte'
  import { api, ask } from '../../lib/api/client'
  import { countdown } from '../../lib/format'
  import { doings } from '../../lib/class/doings.svelte'
  import { seatsOf } from '../../lib/class/seats'
  import Sheet from '../../lib/print/Sheet.svelte'
  import Notice from '../../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const theClass = createQuery(() => ({
    queryKey: ['hour', params.id],
    queryFn: () => ask(api.GET('/api/hours/{id}', { params: { path: { id: params.id } } })),
  }))
  onMount(() => void doings.load().catch(() => {}))
  const h = $derived(theClass.data)
  const used = $derived(h?.plan.bags.filter((b) => h.plan.turns.some((t) => t.seats.some((s) => s.bag === b.id))) ?? [])
  const rows = $derived(h?.rounds.map((r) => ({ ...r, ...seatsOf(h.plan, r.round, doings.names) })) ?? [])
  const frame = $derived(
    (h?.faces ?? [])
      .filter((f) => f.block >= 0 && f.kind !== 'work')
      .map((f) => `${f.title.toLowerCase()} ${countdown((f.until - f.from) / 1e6)}`),
  )
  // Each pair of person and bag once: what they do there.
  const drills = $derived(
    h
      ? h.plan.given
          .map((g) => ({
            who: h.plan.people.find((p) => p.id === g.person)?.name ?? '',
            bag: h.plan.bags.find((b) => b.id === g.bag)?.name ?? '',
            name: g.name,
          }))
          .filter((g) => g.who)
          .toSorted((a, b) => a.who.localeCompare(b.who))
      : [],
  )
</script>

<svelte:head><title>{h ? `${h.name}, card` : 'Card'} · Melodromos</title></svelte:head>
{#if theClass.isError}
  <Notice title="This card could not be made" text={theClass.error.message} again={() => theClass.refetch()} />
{:else if !h}
  <Notice title="Reading…" />
{:else}
  <Sheet title={h.name} back="#/class/{h.id}" caution={h.caution}>
    {#snippet children(pocket)}
      <p class="mt-2 {pocket ? '' : 'text-lg'}">{h.plan.sentence}</p>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex: what scrolls is scrolled by the keyboard, too -->
      <div class="relative overflow-x-auto print:overflow-visible" role="region" aria-label="Who is where" tabindex="0">
        <table class="mt-2 w-full border-collapse text-left {pocket ? '' : 'text-[0.95rem]'}">
          <thead>
            <tr class="border-b-2 border-ink"
              ><th class="pr-2">Round</th>
              {#each used as b (b.id)}<th class="pr-2">{b.name}</th>{/each}
              {#if !pocket}<th>Off the bags</th>{/if}</tr>
          </thead>
          <tbody>
            {#each rows as r (r.round)}
              {@const hang = h.cards.filter((c) => c.round === r.round)}
              {#if hang.length > 0}
                <tr
                  ><td></td><td colspan={used.length + 1} class="pt-1 text-soft {pocket ? '' : 'text-sm'}"
                    >Hang {hang
                      .map((c) => `the ${c.bag}: ${c.text.charAt(0).toLowerCase() + c.text.slice(1)}`)
                      .join('; ')}.</td
                  ></tr>
              {/if}
              <tr class="border-b border-rope align-top">
                <th class="pr-2 whitespace-nowrap" scope="row"
                  ><span class="figure {pocket ? 'text-base' : 'text-2xl'}">{r.short}</span>
                  <span class="font-normal text-soft">{countdown(r.begins / 1e6)}</span></th>
                {#each used as b (b.id)}<td class="pr-2 font-semibold"
                    >{r.on.find((x) => x.bagId === b.id)?.person ?? '–'}</td
                  >{/each}
                {#if !pocket}<td class="text-sm text-soft"
                    >{r.off.map((o) => `${o.people.join(', ')} ${o.what.toLowerCase()}`).join('; ')}</td
                  >{/if}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      {#if !pocket}
        <h2 class="label mt-3">Who does what</h2>
        <ul class="columns-2 gap-8 text-sm">
          {#each drills as d (d.who + d.bag)}<li><b>{d.who}</b>, {d.bag}: {d.name}</li>{/each}
        </ul>
        <p class="mt-3 text-sm"><b>Before and after:</b> {frame.join(', ')}.</p>
      {/if}
    {/snippet}
  </Sheet>
{/if}
