<!-- Serves the coach at the desk: one person's ladder on one bag, rung by rung, and what to do with the rung at hand. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { choices, directions } from '../../lib/labels.gen'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { kinds, type Kind } from '../../lib/bench/kinds.svelte'
  import { percent, shortDay } from '../../lib/format'
  import { take } from '../../lib/people/take'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Decide from './Decide.svelte'
  import Rung from './Rung.svelte'

  type Choice = Schemas['Decision']['choice']
  let { params }: { params: { id: string; kind: string } } = $props()
  const act = new Act(useQueryClient())
  const kind = $derived(params.kind as Kind)
  const ladder = createQuery(() => ({
    queryKey: ['ladder', params.id, kind],
    queryFn: () => ask(api.GET('/api/trainees/{id}/ladder/{kind}', { params: { path: { id: params.id, kind } } })),
  }))
  const l = $derived(ladder.data)
  const p = $derived(l?.proposal)

  /** Says what is done with the rung at hand; true once it is. */
  async function decide(choice: Choice, reason: string) {
    if (!p) return false
    if (choice === 'accept' || choice === 'change') {
      await act.do(choice, () => take(p, choice, reason))
      return true
    }
    const body = { kind, rung: p.rung, choice, reason } as Schemas['Decision']
    const at = { params: { path: { id: params.id } }, body }
    const next = await act.do(choice, () => ask(api.POST('/api/trainees/{id}/decisions', at)), {
      said: ({ name }) =>
        choice === 'hold' ? `${name} is held.` : `${choice === 'skip' ? 'Skipped. ' : ''}${name} is next.`,
    })
    return next !== undefined
  }
  const gate = $derived.by(() => {
    if (!l) return ''
    const { clean, run, rounds, days } = l.gate
    const over = days > 1 ? ` on ${days} days` : ''
    return `${percent(clean)} clean and ${run} in a row, in ${rounds} ${rounds === 1 ? 'round' : 'rounds'}${over}`
  })
  const names = $derived(new Map(l?.rungs.map((r) => [r.key, r.name.toLowerCase()])))
</script>

<svelte:head><title>Ladder · Melodromos</title></svelte:head>
{#if ladder.isError}
  <Notice title="This ladder could not be read" text={ladder.error.message} again={() => ladder.refetch()}>
    <Button href="#/people/{params.id}">To the person</Button>
  </Notice>
{:else if !l || !p}
  <Notice title="Reading the ladder…" />
{:else}
  <p class="label"><a href="#/people/{params.id}">{p.trainee}</a>, {kinds.of(kind).name}, {p.rigName}</p>
  <div class="grid items-start gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <div>
      <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{directions[p.move]}: {p.name}.</h1>
      <p class="mt-2 max-w-prose text-lg">{p.why}</p>
      <p class="text-soft">
        Standard: {gate}. {p.clean == null ? '' : `Expect ${percent(p.clean)} clean now.`} Goal in a row: {p.target}.
      </p>
    </div>
    <Decide proposal={p} busy={!!act.busy} ondecide={decide} />
  </div>
  <ol class="mt-8">
    {#each l.rungs as r, i (r.key)}<Rung {r} gate={l.gate} here={i === p.index} />{/each}
  </ol>
  {#if l.decisions.length > 0}
    <section class="seam mt-8 pt-3">
      <h2 class="text-xl font-bold">Decisions</h2>
      <ul>
        {#each l.decisions.slice(0, 12) as d, i (i)}
          <li class="border-b border-rope py-1.5">
            {shortDay(d.at!, session.zone)}: <b>{choices[d.choice]}</b>, {names.get(d.rung) ?? d.rung}, {d.coach}{d.reason
              ? `: ${d.reason}`
              : ''}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
{/if}
