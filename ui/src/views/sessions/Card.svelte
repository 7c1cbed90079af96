<!-- A session on one page: each round with its blocks. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../../lib/api/client'
  import { countdown } from '../../lib/format'
  import Sheet from '../../lib/print/Sheet.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import { guidances, roundKinds, paces, roles } from '../../lib/labels.gen'

  let { params }: { params: { id: string } } = $props()
  const card = createQuery(() => ({
    queryKey: ['session-card', params.id],
    queryFn: async () => {
      const plan = await ask(api.GET('/api/sessions/{id}', { params: { path: { id: params.id } } }))
      const look = await ask(api.POST('/api/session-look', { body: { session: plan.session } }))
      return { plan, look }
    },
  }))
  const c = $derived(card.data)
  const at = (round: number) =>
    countdown((c?.look.faces.find((f) => f.round === round && f.block >= 0)?.from ?? 0) / 1e6)
</script>

<svelte:head><title>{c?.plan.session.name ?? 'Card'} · Melodromos</title></svelte:head>
{#if card.isError}
  <Notice title="This card could not be made" text={card.error.message} again={() => card.refetch()} />
{:else if !c}
  <Notice title="Reading…" />
{:else}
  <Sheet title={c.plan.session.name} back="#/sessions/{params.id}" caution={c.look.caution}>
    {#snippet children(pocket)}
      <p class="mt-2 {pocket ? '' : 'text-lg'}">{c.look.sentence}</p>
      {#each c.plan.session.rounds as r, i (i)}
        <section
          class="mt-2 break-inside-avoid {pocket
            ? ''
            : 'sm:grid sm:grid-cols-[11rem_1fr] sm:gap-x-4 print:grid print:grid-cols-[11rem_1fr] print:gap-x-4'} border-b border-rope pb-1">
          <h2 class="font-bold">
            <span class="figure {pocket ? 'text-base' : 'text-xl'}">{countdown(r.seconds)}</span>
            {r.emphasis || roundKinds[r.kind]}
            <span class="text-sm font-normal text-soft">at {at(i)}</span>
          </h2>
          <ul>
            {#each r.blocks as b, k (k)}
              <li>
                <b>{b.times ? `${b.times} reps` : `${b.seconds} s`}</b>
                {c.look.titles[i]?.[k] ?? ''}
                {#if !pocket && b.text}<span class="text-soft"
                    >{roles[b.role]}, {paces[b.pace ?? 'combination']}, {guidances[b.guidance ?? 'fading']}</span
                  >{/if}
              </li>
            {/each}
          </ul>
          {#if r.rest > 0 && i + 1 < c.plan.session.rounds.length}<p class="text-sm text-soft">Rest {r.rest} s</p>{/if}
        </section>
      {/each}
    {/snippet}
  </Sheet>
{/if}
