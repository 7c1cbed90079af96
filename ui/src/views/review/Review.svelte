<!-- Serves the coach and the trainee right after the round: how it went, where it broke, what it was like. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../../lib/act.svelte'
  import { push } from 'svelte-spa-router'
  import { api, ask, Refusal, type Schemas } from '../../lib/api/client'
  import { editorOf } from '../../lib/drills/doc'
  import Files from '../../lib/files/Files.svelte'
  import { logFiles } from '../../lib/files/items'
  import { clockTime, count, countdown, day } from '../../lib/format'
  import { markNames } from '../../lib/labels.gen'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Rate from '../../lib/ui/Rate.svelte'
  import Anew from './Anew.svelte'
  import Bring from './Bring.svelte'
  import Faults from './Faults.svelte'
  import Strikes from './Strikes.svelte'
  import Told from './Told.svelte'

  let { params }: { params: { id: string } } = $props()
  const review = createQuery(() => ({
    queryKey: ['review', params.id],
    queryFn: () => ask(api.GET('/api/runs/{id}/review', { params: { path: { id: params.id } } })),
  }))
  const r = $derived(review.data)
  const client = useQueryClient()
  const act = new Act(client)

  function remove(removed: boolean) {
    const at = { params: { path: { id: params.id } } }
    const back = () => ask(api.POST('/api/runs/{id}/restore', at))
    if (!removed) return act.do('bring back', back, { unchanged: 'Nothing was changed.' })
    return act.do('remove', () => ask(api.POST('/api/runs/{id}/remove', at)), {
      said: 'The round is removed from the log.',
      undo: back,
      undone: 'The round is back in the log.',
      unchanged: 'Nothing was changed.',
    })
  }
  const at = $derived({ params: { path: { id: params.id } } })
  const fixed = new Act(client)
  const say = (strike: number, verdict: Schemas['Said']['verdict']) =>
    void fixed.do('say', () => ask(api.POST('/api/runs/{id}/corrections', { ...at, body: { strike, verdict } })), {
      said: `Strike ${strike + 1} is corrected.`,
    })
  const anew = (body: Schemas['Anew']) =>
    void fixed.do('anew', () => ask(api.POST('/api/runs/{id}/rejudge', { ...at, body })), {
      said: 'The round is re-judged.',
      unchanged: 'The judgement stays.',
    })
  const undo = (correction: string) =>
    void fixed.do('undo', () =>
      ask(
        api.POST('/api/runs/{id}/corrections/{correction}/undo', { params: { path: { id: params.id, correction } } }),
      ),
    )
  const mend = (f: Schemas['FaultOut']) =>
    void act.do('mend', async () => {
      const given = await ask(api.POST('/api/runs/{id}/remedy', { ...at, body: { code: f.code } }))
      await push(`/run/${given.assignmentId}`)
    })
  async function rate(body: Schemas['Rating']) {
    await ask(api.PUT('/api/runs/{id}/rating', { ...at, body }))
    await client.invalidateQueries()
  }
  const when = $derived(r?.startedAt ? `, ${day(r.startedAt, r.zone)} at ${clockTime(r.startedAt, r.zone)}` : '')
  const ended = $derived.by(() => {
    if (!r || (r.ended !== 'stopped' && r.ended !== 'vanished')) return ''
    const at = countdown(Math.max(0, (r.untilUs - r.run.timeline.start) / 1e6))
    return r.ended === 'stopped' ? `, stopped at ${at}` : `, screen lost at ${at}`
  })
  const over = $derived(r?.run.state === 'done' || r?.run.state === 'stopped')
  const marked = $derived(
    Object.entries(Object.groupBy(r?.marks ?? [], (m) => m.kind))
      .map(([kind, list]) => {
        const name = markNames[kind]?.toLowerCase() ?? r?.run.sees.find((s) => s.kind === kind)?.name ?? kind
        return count(list?.length ?? 0, name, name)
      })
      .join(', '),
  )
</script>

<svelte:head><title>Review · Melodromos</title></svelte:head>
{#if review.isError}
  <Notice
    title={review.error instanceof Refusal && review.error.status === 422 && review.error.field !== 'unreadable'
      ? 'Nothing to review'
      : 'This round could not be read'}
    text={review.error.message}
    again={() => review.refetch()}>
    <Button href="#/log">To the log</Button>
  </Notice>
  <Unreadable of={['round']} id={params.id} />
{:else if !r}
  <Notice title="Judging the round…" />
{:else}
  <p class="label">{r.run.trainee.name}, {r.run.drillName} on the {r.run.rigName}{when}{ended}</p>
  {#if r.run.removed}
    <p class="my-2 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-3" role="status">
      <span>
        <strong>Removed from the log.</strong> Not counted for the ladder.
      </span>
      <Button onclick={() => remove(false)}>Bring it back</Button>
    </p>
  {/if}
  <Problem text={act.problem} />
  <div class="grid items-start gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{r.headline}</h1>
    <div class="flex flex-wrap gap-2 lg:w-96 lg:justify-end">
      {#if r.run.assignmentId}
        <Button main href="#/run/{r.run.assignmentId}">Run it again</Button>
        <Button href="#{editorOf(r.run.doc, r.run.assignmentId)}">Change one thing</Button>
      {/if}
      <Files of="{r.run.trainee.name}, {r.run.drillName}" items={r.run.trainee.id ? logFiles(r.run.trainee.id) : []} />
      <Button quiet href="#/log">To the log</Button>
      {#if !r.run.removed}
        <Button quiet onclick={() => remove(true)}>Remove from the log</Button>
      {/if}
    </div>
  </div>
  <Faults {r} busy={!!act.busy} onmend={mend} />
  <Told {r} />
  {#if marked}<p class="mt-3">Marked: {marked}.</p>{/if}
  <section class="mt-4" aria-label="What the coach says">
    <Rate rating={r.rating} name="this round" save={rate} />
  </section>
  {#if over && r.hits.length === 0}<Bring id={params.id} onbrought={() => void client.invalidateQueries()} />{/if}
  {#if r.strikes.length > 0 && r.judged && r.hits.length > 0}<Strikes {r} busy={!!fixed.busy} onsay={say} />{/if}
  {#if over && r.strikes.length > 0 && r.hits.length > 0 && !r.run.removed}
    <Anew {r} busy={!!fixed.busy} problem={fixed.problem} onanew={anew} onundo={undo} />
  {/if}
  {#if r.judged}
    <p class="seam mt-8 pt-3 text-sm text-soft">
      {r.run.source === 'standin' ? 'The demo hits are simulated, and nobody’s.' : 'The hits are measured.'}
      When each strike was due, and how much is allowed, are modelled from the bag.
    </p>
  {/if}
{/if}
