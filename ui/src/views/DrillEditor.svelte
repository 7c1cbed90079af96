<!-- Serves the coach at the desk: one person, one bag, one rhythm, one length. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { router } from 'svelte-spa-router'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { beginning, begunWith, Desk } from '../lib/drills/desk.svelte'
  import { isLine, type Technique } from '../lib/drills/doc'
  import ForWhom from '../lib/drills/ForWhom.svelte'
  import { count, duration, ms, side, speed } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import { sample } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import Cards from '../lib/ui/Cards.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Field from '../lib/ui/Field.svelte'
  import Fit from '../lib/ui/Fit.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import { WhatIf } from '../lib/whatif.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  // Drills are programmed on speed bags so far.
  const bags = createQuery(() => ({
    queryKey: ['rigs'],
    queryFn: () => ask(api.GET('/api/rigs')),
    select: (rigs) => rigs.filter((r) => r.doc.kind === 'speed'),
  }))
  const isNew = $derived(params.id === 'new')

  const desk = new Desk(client)
  const drill = $derived(desk.drill)
  const whatIf = new WhatIf((q: Schemas['DrillQuestion']) =>
    ask(api.POST('/api/compose', { body: { ...q, glance: true } })),
  )
  const p = $derived(whatIf.answer)
  let question = $state.raw<Schemas['DrillQuestion'] | null>(null)
  const doc = $derived(drill && !isLine(drill.doc) ? drill.doc : undefined)
  const trainee = $derived(people.data?.find((t) => t.id === drill?.traineeId))
  const strikes = $derived(p ? sample(p.cycle, p.pattern) : [])
  const ready = $derived(people.data !== undefined && (bags.data?.length ?? 0) > 0)
  // The first drill of a gym in which nobody is entered yet brings its person along.
  let newcomer = $state({ name: '', stance: 'orthodox' as Schemas['Trainee']['stance'] })
  const stance = $derived(trainee?.stance ?? newcomer.stance)

  $effect(() => {
    const id = params.id
    if (id !== 'new' || ready) untrack(() => void load(id))
  })
  $effect(() => {
    if (drill?.rigId) {
      const next = {
        rigId: drill.rigId,
        doc: $state.snapshot(drill.doc),
        ...(trainee ? { traineeId: trainee.id } : { band: 'beginner' }),
      } as Schemas['DrillQuestion']
      untrack(() => {
        question = next
        void whatIf.ask(next)
      })
    }
  })

  const load = (id: string) =>
    desk.reading(async () => {
      if (id !== 'new') return desk.open(id)
      const query = new URLSearchParams(router.querystring ?? '')
      const from = beginning(query)
      const rigId = from.rig || bags.data?.[0]?.id || ''
      const entry = await begunWith(from)
      const first = {
        ...(entry?.doc ?? (await ask(api.GET('/api/first-drill/{id}', { params: { path: { id: rigId } } })))),
      } as Technique
      for (const [name, field] of [
        ['tempo', 'tempo'],
        ['rebounds', 'rebounds'],
        ['angle', 'strikeAngle'],
      ] as const) {
        const v = Number(query.get(name))
        if (v > 0) first[field] = v
      }
      desk.begin(rigId, from.trainee || people.data?.[0]?.id || '', entry?.name ?? '', first)
    })

  const techniques = [
    { value: 'oneHand', text: 'One hand' },
    { value: 'alternating', text: 'Hand after hand' },
    { value: 'fistRoll', text: 'Fist roll' },
    { value: 'linking', text: 'Linking' },
    { value: 'doublePunch', text: 'Double punch' },
    { value: 'trap', text: 'Trap' },
  ]
  /** Another technique brings its own count, angle and sets along, and the nearest tempo that the bag then allows. */
  async function change(technique: string) {
    if (!drill) return
    try {
      renew(
        await ask(
          api.POST('/api/drill-technique', {
            body: { rigId: drill.rigId, technique, doc: $state.snapshot(drill.doc) },
          }),
        ),
      )
      desk.problem = ''
    } catch (e) {
      desk.problem = (e as Error).message
    }
  }
  const set = (change: Partial<Technique>) => doc && renew({ ...doc, ...change })
  /** Another drill; a name that only said what the old one was goes with it. */
  function renew(next: Schemas['DrillDoc']) {
    if (!drill) return
    if (drill.name === p?.name) drill.name = ''
    drill.doc = next
  }

  async function save(run: boolean) {
    if (drill && !drill.traineeId) {
      if (!newcomer.name.trim()) return void (desk.problem = 'Say who it is for. Nothing was saved.')
      try {
        drill.traineeId = (
          await ask(
            api.POST('/api/trainees', {
              body: {
                id: '',
                name: newcomer.name.trim(),
                stance: newcomer.stance,
                band: 'first-timer',
                ageBand: 'adult',
              },
            }),
          )
        ).id
      } catch (e) {
        return void (desk.problem = `${(e as Error).message} Nothing was saved.`)
      }
    }
    await desk.save(run)
  }
</script>

<svelte:head><title>Drill · Melodromos</title></svelte:head>
{#if desk.trouble}
  <Notice title="This drill could not be read" text={desk.trouble} again={() => load(params.id)}
    ><a class="button" href="#/drills">To the drills</a></Notice>
{:else if isNew && people.data && bags.data && !ready}
  <Notice title="A drill needs a bag." text="Measure one as it hangs; that decides which tempos there are.">
    <a class="button main" href="#/bags/new">Add a bag</a>
  </Notice>
{:else if !drill || !doc}
  <Notice title="Reading the drill…" />
{:else}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[22rem_1fr]">
    <section class="order-2 lg:order-1" aria-label="The drill">
      {#if people.data?.length === 0}
        <label class="block"
          ><span class="label">For whom</span><input
            class="input mt-1"
            maxlength="120"
            placeholder="Name"
            bind:value={newcomer.name} /></label>
        <Choice
          label="Stance"
          value={newcomer.stance}
          options={[
            { value: 'orthodox', text: 'Orthodox' },
            { value: 'southpaw', text: 'Southpaw' },
          ]}
          onchange={(v) => (newcomer.stance = v)}
          note="Orthodox: the left hand leads." />
      {:else}
        <label class="block"
          ><span class="label">For whom</span>
          <select class="input mt-1" bind:value={drill.traineeId}
            >{#each people.data ?? [] as t (t.id)}<option value={t.id}>{t.name}</option>{/each}</select
          ></label>
      {/if}
      <label class="mt-2 block"
        ><span class="label">On which bag</span>
        <select class="input mt-1" bind:value={drill.rigId}
          >{#each bags.data ?? [] as b (b.id)}<option value={b.id}>{b.name}</option>{/each}</select
        ></label>
      <div class="seam mt-4 pt-2">
        <Choice
          label="Technique"
          value={doc.technique}
          options={techniques}
          onchange={(t) => void change(String(t))}
          note={p ? `Met ${p.where}.` : ''} />
        {#if doc.technique !== 'doublePunch' || doc.perHand > 0}<Choice
            label={doc.technique === 'doublePunch' ? 'Goes first' : 'First hand'}
            value={doc.firstHand as 'lead' | 'rear'}
            options={(['lead', 'rear'] as const).map((h) => ({
              value: h,
              text: `${h === 'lead' ? 'Lead' : 'Rear'} (${side(h, stance)})`,
            }))}
            onchange={(firstHand) => set({ firstHand })} />{/if}
        {#if p && p.sets.length > 0}
          <Choice
            label={doc.technique === 'doublePunch' ? 'Hands exchange places after' : 'Change hands after'}
            value={doc.perHand}
            options={p.sets.map((n) => ({ value: n, text: n === 0 ? 'Never' : String(n) }))}
            onchange={(perHand) => set({ perHand })}
            note={doc.technique === 'doublePunch'
              ? 'Back and forth: the other fist goes first.'
              : doc.technique === 'trap'
                ? 'The last strike of each set is the trap.'
                : doc.technique === 'linking'
                  ? 'Out through the bag and back are two.'
                  : 'Five a side to begin with; fewer as skill grows, the rhythm kept through the change.'} />
        {/if}
        {#if p && p.sets.length > 0 && doc.perHand > 0 && doc.technique !== 'doublePunch'}
          <Choice
            label="Through the round"
            value={doc.scheme || 'steady'}
            options={[
              { value: 'steady', text: 'The same' },
              { value: 'falling', text: 'Then fewer' },
              { value: 'rising', text: 'One more each time' },
            ]}
            onchange={(scheme) => set({ scheme })}
            note={doc.scheme === 'falling'
              ? 'Each number twice a side, then fewer, down to two.'
              : doc.scheme === 'rising'
                ? `${doc.perHand} on one side, then ${doc.perHand + (doc.technique === 'linking' ? 2 : 1)} on the other: the target rises.`
                : ''} />
        {/if}
        {#if p && p.counts.length > 1}
          <Choice
            label="Rebounds to the next strike"
            value={doc.rebounds}
            options={p.counts.map((n) => ({ value: n, text: String(n) }))}
            onchange={(rebounds) => set({ rebounds })}
            note={doc.technique === 'linking'
              ? 'Even from face to face.'
              : doc.technique === 'doublePunch'
                ? 'Counted after the second fist.'
                : 'Odd from the front. Three is everyday.'} />
        {/if}
        <Field
          label="Tempo"
          value={doc.tempo ?? p?.shown ?? 100}
          min={Math.max(10, Math.ceil(p?.slowest ?? 10))}
          max={Math.min(600, Math.floor(p?.fastest ?? 600))}
          step={1}
          unit="/min"
          onchange={(tempo) => set({ tempo })}
          problem={p?.field === 'tempo' ? p.problem : ''} />
        <Choice
          label="Who sets the time"
          value={doc.clock || 'bag'}
          options={[
            { value: 'bag', text: 'The bag' },
            { value: 'beat', text: 'The beat' },
          ]}
          onchange={(clock) => set({ clock })}
          note={doc.clock === 'beat'
            ? 'Each strike is held against its planned moment; force makes the bag follow.'
            : 'Each strike is due when the bag comes back from the one before.'} />
        <Choice
          label="The bag is"
          value={doc.earOnly ? 'ear' : 'seen'}
          options={[
            { value: 'seen', text: 'Seen and heard' },
            { value: 'ear', text: 'Heard only' },
          ]}
          onchange={(v) => set({ earOnly: v === 'ear' })} />
        {#if doc.work}
          <Field
            label="From bell to bell"
            value={doc.work}
            min={10}
            max={600}
            step={5}
            unit="s"
            onchange={(work) => set({ work })} />
        {:else}
          <Field
            label="Strikes"
            value={doc.strikes}
            min={1}
            max={400}
            most={2000}
            step={1}
            unit=""
            onchange={(v) => set({ strikes: Math.round(v) })} />
        {/if}
        <Choice
          label="Ends by"
          value={doc.work ? 'time' : 'count'}
          options={[
            { value: 'time', text: 'The bell' },
            { value: 'count', text: 'A number of strikes' },
          ]}
          onchange={(v) => set(v === 'time' ? { work: 60, strikes: 0 } : { work: 0, strikes: 50 })} />
      </div>
      <label class="mt-3 block"
        ><span class="label">Name, if it shall have its own</span><input
          class="input mt-1"
          maxlength="120"
          bind:value={drill.name}
          placeholder={p?.name ?? ''} /></label>
      {#if desk.problem}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{desk.problem}</p>{/if}
      <ForWhom {desk} />
      <div class="mt-4 flex flex-wrap gap-2">
        <button class="button main" disabled={!p || !!p.problem} onclick={() => save(true)}>Save and run</button>
        <button class="button" disabled={!p || !!p.problem} onclick={() => save(false)}>Save</button>
      </div>
    </section>
    <section class="order-1 min-w-0 lg:order-2" aria-label="What it comes to">
      {#if p}
        <h1 class="min-h-[2.3em] text-3xl leading-tight font-extrabold tracking-tight" aria-live="polite">
          {p.sentence}
        </h1>
        {#if p.change.length > 0}
          <div class="mt-2 flex flex-wrap gap-2">
            {#each p.change as c (c.what)}
              {#if c.what === 'rebounds' && c.to <= 5}<button
                  class="button"
                  title={c.reason}
                  onclick={() => set({ rebounds: c.to })}>Count {c.to}</button>
              {:else if c.what === 'tempo'}<button class="button" title={c.reason} onclick={() => set({ tempo: c.to })}
                  >Take {c.to} a minute</button
                >{/if}
            {/each}
          </div>
        {:else if p.problem}
          <p class="mt-2 border-l-4 border-ink pl-3 font-semibold" role="alert">{p.problem}</p>
        {/if}
        <div class="mt-4 bg-sheet py-2">
          <SwingTrace
            cycle={p.cycle}
            {strikes}
            tempo={p.shown}
            from={-0.22}
            to={Math.max(0.75, p.cycle.return + 0.22)}
            height={320} />
        </div>
        {#if !p.problem}
          <dl class="mt-5 grid grid-cols-2 gap-x-8 gap-y-4 sm:grid-cols-4">
            <div>
              <dt class="label">Strikes</dt>
              <dd class="figure text-4xl">{p.strikes}</dd>
            </div>
            <div>
              <dt class="label">Bell to bell</dt>
              <dd class="figure text-4xl">{duration(p.seconds)}</dd>
            </div>
            <div>
              <dt class="label">Window</dt>
              <dd class="figure text-4xl">{p.window ? ms(p.window) : '–'}</dd>
            </div>
            <div>
              <dt class="label">Fist speed, {p.effort}</dt>
              <dd class="figure text-4xl">{p.fist ? speed(p.fist, session.units) : '–'}</dd>
            </div>
          </dl>
          <h2 class="label mt-6">
            One pattern, {count(p.pattern.length, 'strike')}{stance === 'southpaw'
              ? ', right hand leads'
              : ''}{p.pattern.some((b) => b.face === 'behind') ? '; open discs from behind' : ''}{p.pattern.some(
              (b) => b.pin,
            )
              ? '; in a ring, the trap'
              : ''}
          </h2>
          <ol class="mt-1 flex flex-wrap gap-1.5">
            {#each p.pattern as beat, i (i)}
              <li
                class="grid size-9 place-items-center rounded-full font-bold {beat.face === 'behind'
                  ? 'border-2 border-strike text-strike'
                  : 'bg-strike text-sheet'} {beat.pin ? 'outline-2 outline-offset-2 outline-strike' : ''} {beat.hand ===
                'rear'
                  ? 'mt-4'
                  : 'mb-4'}">
                <span aria-hidden="true">{beat.hand === 'both' ? 'B' : beat.hand === 'lead' ? 'L' : 'R'}</span><span
                  class="sr-only"
                  >{beat.hand}{beat.face === 'behind' ? ', from behind' : ''}{beat.pin ? ', trap' : ''}</span>
              </li>
            {/each}
          </ol>
        {/if}
        {#if !p.problem}<Fit
            {question}
            name={trainee?.name.split(' ')[0] ?? 'a beginner'}
            people={people.data ?? []}
            ontake={renew} />{/if}
        <Cards cards={p.cards} />
      {/if}
      {#if whatIf.refusal}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">
          {whatIf.refusal.message}
        </p>{/if}
    </section>
  </div>
{/if}
