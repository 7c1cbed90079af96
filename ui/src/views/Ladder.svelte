<!-- Serves the coach at the desk: one person's ladder on one bag, rung by rung, and what to do with the rung at hand. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { kinds, type Kind } from '../lib/bench/kinds.svelte'
  import { percent, shortDay } from '../lib/format'
  import { moves, take } from '../lib/people/take'
  import { session } from '../lib/session.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { id: string; kind: string } } = $props()
  const client = useQueryClient()
  const kind = $derived(params.kind as Kind)
  const ladder = createQuery(() => ({
    queryKey: ['ladder', params.id, kind],
    queryFn: () => ask(api.GET('/api/trainees/{id}/ladder/{kind}', { params: { path: { id: params.id, kind } } })),
  }))
  const l = $derived(ladder.data)
  const p = $derived(l?.proposal)
  let choosing = $state<'change' | 'hold' | 'skip' | null>(null)
  let reason = $state('')

  async function decide(choice: 'hold' | 'skip' | 'goOn') {
    if (!p) return
    try {
      const next = await ask(
        api.POST('/api/trainees/{id}/decisions', {
          params: { path: { id: params.id } },
          body: { kind, rung: p.rung, choice, reason } as Schemas['Decision'],
        }),
      )
      await client.invalidateQueries()
      toast(
        { hold: `${next.name} is held.`, skip: `Skipped. ${next.name} is next.`, goOn: `${next.name} is next.` }[
          choice
        ],
      )
      choosing = null
      reason = ''
    } catch (e) {
      toast((e as Error).message)
    }
  }
  async function go(choice: 'accept' | 'change') {
    if (!p) return
    try {
      await take(p, choice, choice === 'change' ? reason : '')
      await client.invalidateQueries()
    } catch (e) {
      toast((e as Error).message)
    }
  }
  const said = { accept: 'Taken', change: 'Taken and changed', hold: 'Held', goOn: 'Let go on', skip: 'Skipped' }
  const names = $derived(new Map(l?.rungs.map((r) => [r.key, r.name])))
</script>

<svelte:head><title>Ladder · Melodromos</title></svelte:head>
{#if ladder.isError}
  <Notice title="This ladder could not be read" text={ladder.error.message} again={() => ladder.refetch()}
    ><a class="button" href="#/people/{params.id}">To the person</a></Notice>
{:else if !l || !p}
  <Notice title="Reading the ladder…" />
{:else}
  <p class="label"><a href="#/people/{params.id}">{p.trainee}</a>, {kinds.of(kind).name}, {p.rigName}</p>
  <div class="grid items-start gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <div>
      <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{moves[p.move]}: {p.name}.</h1>
      <p class="mt-2 max-w-prose text-lg">{p.why}</p>
      <p class="text-soft">
        The gate: {percent(l.gate.clean)} clean and {l.gate.run} in a row, in {l.gate.rounds}
        {l.gate.rounds === 1 ? 'round' : 'rounds'}{l.gate.days > 1 ? ` on ${l.gate.days} days` : ''}. {p.clean != null
          ? `${percent(p.clean)} clean is expected now.`
          : ''} The streak to reach: {p.target}.
      </p>
    </div>
    <div class="flex max-w-md flex-wrap gap-2 lg:justify-end">
      <button class="button main" disabled={!!p.barred} onclick={() => go('accept')}>Run it</button>
      <button class="button" disabled={!!p.barred} onclick={() => (choosing = 'change')}>Change it first…</button>
      {#if p.move === 'stay'}<button class="button" onclick={() => decide('goOn')}>Let it go on</button>{:else}<button
          class="button"
          onclick={() => (choosing = 'hold')}>Hold…</button
        >{/if}
      <button class="button" onclick={() => (choosing = 'skip')}>Skip…</button>
      {#if choosing}
        <form
          class="w-full"
          onsubmit={(e) => {
            e.preventDefault()
            if (choosing === 'change') void go('change')
            else if (choosing) void decide(choosing)
          }}>
          <!-- svelte-ignore a11y_autofocus -->
          <label class="block"
            ><span class="label"
              >{{
                change: 'What should be otherwise, and why',
                hold: 'Why it stays here',
                skip: 'Why the gate does not matter here',
              }[choosing]}</span
            ><input class="input mt-1" maxlength="400" required autofocus bind:value={reason} /></label>
          <div class="mt-2 flex gap-2">
            <button class="button main">{{ change: 'Change it', hold: 'Hold it', skip: 'Skip it' }[choosing]}</button
            ><button type="button" class="button" onclick={() => (choosing = null)}>Leave it</button>
          </div>
        </form>
      {/if}
    </div>
  </div>

  <ol class="mt-8">
    {#each l.rungs as r, i (r.key)}
      {@const here = i === p.index}
      {@const passed = r.done}
      <li class="grid grid-cols-[3.5rem_1fr] gap-x-4 {here ? 'bg-sheet' : ''}" aria-current={here ? 'step' : undefined}>
        <div class="relative min-h-16" aria-hidden="true">
          <span class="absolute inset-y-0 left-2 w-1 bg-rope"></span><span
            class="absolute inset-y-0 right-2 w-1 bg-rope"></span>
          <span
            class="absolute top-1/2 right-1.5 left-1.5 -translate-y-1/2 {passed
              ? 'h-2 bg-ink'
              : `border-t-4 border-rope ${here ? '' : 'border-dashed'}`}"></span>
          {#if here}<span
              class="absolute top-1/2 left-1/2 size-6 -translate-1/2 rounded-full border-4 border-ink bg-sheet"></span
            >{/if}
        </div>
        <div class="grid items-center gap-x-6 gap-y-1 border-b border-rope py-2.5 sm:grid-cols-[1fr_auto]">
          <div>
            <p class="font-bold">
              {r.name}
              <span class="text-sm font-normal text-soft"
                >{r.level != null ? `level ${r.level.toFixed(1)}` : ''}{r.clean != null
                  ? `, ${percent(r.clean)} clean expected`
                  : ''}</span>
            </p>
            <p class="text-sm text-soft">
              {r.note}{r.skipped
                ? ` Skipped: ${r.skipped}.`
                : passed && r.at
                  ? ` Past its gate on ${shortDay(r.at, session.zone)}.`
                  : r.through > 0
                    ? ` ${r.through} of ${l.gate.rounds} rounds past the gate.`
                    : ''}{r.best > 0 ? ` Best ${r.best} in a row.` : ''}{r.held ? ` Held back: ${r.held}.` : ''}
            </p>
          </div>
          {#if r.rounds.length > 0}
            <svg
              width={Math.min(24, r.rounds.length) * 9 + 4}
              height="34"
              class="block"
              role="img"
              aria-label="Clean share by round: {r.rounds
                .slice(-24)
                .map((x) => percent(x.clean))
                .join(', ')}">
              <line
                x1="0"
                x2="100%"
                y1={32 - 30 * l.gate.clean}
                y2={32 - 30 * l.gate.clean}
                stroke="var(--ink)"
                stroke-width="1"
                stroke-dasharray="3 3" />
              {#each r.rounds.slice(-24) as x, k (x.id)}<rect
                  x={k * 9 + 2}
                  y={32 - 30 * x.clean}
                  width="6"
                  height={30 * x.clean}
                  fill={x.through ? 'var(--ink)' : 'none'}
                  stroke="var(--ink)"
                  stroke-width="1.5" />{/each}
            </svg>
          {/if}
        </div>
      </li>
    {/each}
  </ol>
  {#if l.decisions.length > 0}
    <section class="seam mt-8 pt-3">
      <h2 class="text-xl font-bold">What was decided</h2>
      <ul>
        {#each l.decisions.slice(0, 12) as d, i (i)}<li class="border-b border-rope py-1.5">
            {shortDay(d.at!, session.zone)}: <b>{said[d.choice]}</b>, {names.get(d.rung)?.toLowerCase() ?? d.rung}, {d.coach}{d.reason
              ? `: ${d.reason}`
              : ''}
          </li>{/each}
      </ul>
    </section>
  {/if}
{/if}
