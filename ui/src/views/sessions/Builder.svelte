<!-- Serves the coach at the desk: a session laid out round by round, each adding up to the second. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy, untrack } from 'svelte'
  import { push, replace, router } from 'svelte-spa-router'
  import { api, ask } from '../../lib/api/client'
  import { asked } from '../../lib/address'
  import { kinds } from '../../lib/bench/kinds.svelte'
  import Standing from '../../lib/drafts/Standing.svelte'
  import Files from '../../lib/files/Files.svelte'
  import { sessionFiles } from '../../lib/files/items'
  import { countdown, duration } from '../../lib/format'
  import Part from '../../lib/say/Part.svelte'
  import Pick from '../../lib/say/Pick.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Rope from '../class/Rope.svelte'
  import BlockRow from './BlockRow.svelte'
  import RoundSay from './RoundSay.svelte'
  import { Sheet, type Session } from './sheet.svelte'
  import Sums from './Sums.svelte'
  import { roundKinds } from '../../lib/labels.gen'

  let { params }: { params: { id: string } } = $props()
  const sheet = new Sheet(useQueryClient())
  onDestroy(() => sheet.leave())
  const query = $derived((void router.querystring, asked()))
  $effect(() => {
    const id = params.id
    untrack(() => {
      if (id !== sheet.plan?.id || id === 'new') void sheet.open(id, query)
    })
  })
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  $effect(() => {
    void $state.snapshot(sheet.plan)
    untrack(() => sheet.keepDraft())
  })
  const s = $derived(sheet.session)
  const look = $derived(sheet.look)
  const faces = $derived(look?.faces ?? [])
  const chosen = $derived(faces.find((f) => f.round === sheet.round && f.block === sheet.block)?.id ?? -1)
  const remarks = $derived(look?.remarks ?? [])
  const bags = $derived([
    { value: '', text: 'any bag' },
    ...kinds.all.map((k) => ({ value: k.kind as string, text: k.name })),
  ])
  const barred = $derived(look?.barred ?? false)
  async function save() {
    const kept = await sheet.save()
    if (kept && params.id === 'new') void replace(`/sessions/${kept.id}`)
  }
  async function run() {
    const kept = sheet.changed || sheet.isNew ? await sheet.save() : sheet.plan
    if (kept) void push(`/class?session=${kept.id}`)
  }
  const rows = (p: { session: Session }) =>
    p.session.rounds.map((r, i) => ({
      name: `${roundKinds[r.kind]} ${i + 1}`,
      text: `${duration(r.seconds)}, ${r.emphasis}: ${r.blocks.map((b) => b.text || b.activity || b.drill || b.role).join('; ')}`,
    }))
  function keys(e: KeyboardEvent) {
    if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !(e.target as HTMLElement).closest('input, textarea')) {
      sheet.undo()
      e.preventDefault()
    }
  }
</script>

<svelte:head><title>{s?.name || 'Session'} · Melodromos</title></svelte:head>
<svelte:window onkeydown={keys} />
{#if sheet.unread}
  <Notice title="This session could not be opened" text={sheet.unread} again={() => sheet.open(params.id, query)}>
    <Button href="#/sessions">To the sessions</Button>
  </Notice>
  <Unreadable of={['session']} id={params.id} />
{:else if !s || !sheet.plan}
  <Notice title="Reading the session…" />
{:else}
  <div data-instrument>
    <div class="flex flex-wrap items-start justify-between gap-x-4 gap-y-2">
      <h1 class="min-w-0 flex-1 basis-80 text-2xl leading-10 font-bold">
        <Part text={s.name || 'A session'} label="Name">
          {#snippet children(close)}
            <label class="block">
              <span class="label">Name</span>
              <input
                class="input mt-1"
                maxlength="120"
                bind:value={sheet.plan!.session.name}
                onkeydown={(e) => e.key === 'Enter' && close()} />
            </label>
          {/snippet}
        </Part>
        <span class="font-normal">on</span>
        <Part text={bags.find((b) => b.value === s.bag)?.text ?? 'any bag'} label="Bag">
          {#snippet children(close)}
            <Pick
              label="For which kind of bag"
              value={s.bag}
              options={bags}
              onpick={(v) => {
                sheet.change((x) => (x.bag = v as Session['bag']))
                close()
              }} />
          {/snippet}
        </Part>
        <span class="font-normal">for</span>
        <Part text={people.data?.find((t) => t.id === sheet.traineeId)?.name ?? 'anybody'} label="Person">
          {#snippet children(close)}
            <Pick
              label="Looked at for"
              value={sheet.traineeId}
              options={[
                { value: '', text: 'anybody: a beginner' },
                ...(people.data ?? []).map((t) => ({ value: t.id, text: t.name })),
              ]}
              onpick={(v) => {
                sheet.traineeId = v
                sheet.ask()
                close()
              }} />
          {/snippet}
        </Part>
      </h1>
      <span class="flex flex-wrap gap-2">
        <Button quiet disabled={!sheet.undoable} onclick={() => sheet.undo()}>Undo</Button>
        {#if !sheet.isNew}<Files
            of={s.name || 'a session'}
            items={sessionFiles(sheet.plan.id)}
            unsaved={sheet.changed} />{/if}
        <Button disabled={!(sheet.changed || sheet.isNew) || sheet.busy || barred} onclick={save}>Save session</Button>
        <Button main disabled={sheet.busy || barred} onclick={run}>Save and plan a class</Button>
      </span>
    </div>
    <Standing
      since={sheet.draft.since}
      mine={() => sheet.plan!}
      theirs={sheet.meanwhile.theirs}
      {rows}
      ondrop={() => (sheet.isNew ? void push('/sessions') : sheet.putBack())}
      onmine={() => sheet.keepMine()}
      ontheirs={() => sheet.keepTheirs()} />
    <Problem text={sheet.problem || (sheet.whatIf.refusal?.message ?? '')} />
    <p class="mt-1 min-h-7 text-lg {sheet.whatIf.pending ? 'text-soft' : ''}" aria-live="polite">
      {look?.sentence ?? ''}
    </p>
    <Rope
      {faces}
      {chosen}
      onchoose={(f) => {
        sheet.round = f.round
        sheet.block = f.block
      }} />
    <div class="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-4 lg:grid-cols-[13rem_minmax(0,1fr)_16rem]">
      <nav aria-label="Rounds">
        <ol class="max-h-[22rem] overflow-y-auto">
          {#each s.rounds as r, i (i)}
            <li>
              <button
                class="flex min-h-8 w-full items-baseline justify-between gap-2 px-2 text-left {i === sheet.round
                  ? 'bg-ink text-ground'
                  : 'hover:bg-shade'}"
                aria-current={i === sheet.round ? 'true' : undefined}
                onclick={() => {
                  sheet.round = i
                  sheet.block = 0
                }}>
                <span class="truncate">{r.emphasis || roundKinds[r.kind]}</span>
                <span class="text-sm tabular-nums">{countdown(r.seconds)}</span>
              </button>
            </li>
          {/each}
        </ol>
      </nav>
      {#if sheet.current}
        <section aria-label="This round">
          <RoundSay {sheet} round={sheet.current} />
          <ol class="mt-2">
            {#each sheet.current.blocks as b, i (i)}
              <BlockRow
                {sheet}
                block={b}
                {i}
                title={look?.titles[sheet.round]?.[i] ?? ''}
                remarks={remarks.filter((r) => r.round === sheet.round && r.block === i)} />
            {/each}
          </ol>
          <p class="mt-2"><Button small onclick={() => sheet.addBlock()}>Add a block</Button></p>
        </section>
      {/if}
      <Sums {sheet} {remarks} totals={look?.totals} />
    </div>
  </div>
{/if}
