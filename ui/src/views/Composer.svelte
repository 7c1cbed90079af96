<!-- Serves the coach at the desk: a combination as it is written and said, how it flows, and where it lands on this bag. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { tick, untrack } from 'svelte'
  import { router } from 'svelte-spa-router'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { beginning, begunWith, Desk } from '../lib/drills/desk.svelte'
  import { isLine, type Line } from '../lib/drills/doc'
  import ForWhom from '../lib/drills/ForWhom.svelte'
  import { kinds, labelOf, shownAs, valueOf } from '../lib/bench/kinds.svelte'
  import { duration, length, ms, speed, upper } from '../lib/format'
  import { RunClock } from '../lib/run/clock'
  import { Sound } from '../lib/run/sound'
  import { session } from '../lib/session.svelte'
  import { composedMoves, composedStrikes } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import Cards from '../lib/ui/Cards.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Field from '../lib/ui/Field.svelte'
  import Fit from '../lib/ui/Fit.svelte'
  import LineInput from '../lib/ui/LineInput.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import Surprise from '../lib/ui/Surprise.svelte'
  import Tied from '../lib/ui/Tied.svelte'
  import { WhatIf } from '../lib/whatif.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const desk = new Desk(client)
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const bags = createQuery(() => ({ queryKey: ['rigs'], queryFn: () => ask(api.GET('/api/rigs')) }))
  const ready = $derived(people.data !== undefined && bags.data !== undefined)

  const drill = $derived(desk.drill)
  let text = $state('')
  let outOfReach = $state('') // a tempo that the bag does not give
  let past = $state.raw<Line[]>([])
  let future = $state.raw<Line[]>([])
  let line = $state<HTMLInputElement>()
  let playing = $state(false)
  let question = $state.raw<Schemas['DrillQuestion'] | null>(null)

  const whatIf = new WhatIf((q: Schemas['DrillQuestion']) =>
    ask(api.POST('/api/compose', { body: { ...q, glance: true } })),
  )
  const p = $derived(whatIf.answer)
  const c = $derived(p?.composed)
  const doc = $derived(drill && isLine(drill.doc) ? drill.doc : undefined)
  const trainee = $derived(people.data?.find((t) => t.id === drill?.traineeId))
  const bag = $derived(bags.data?.find((b) => b.id === drill?.rigId))
  const kind = $derived(bag?.doc.kind ?? 'doubleEnd')
  const units = $derived(session.units)
  const refused = $derived(whatIf.refusal?.message ?? '')
  const about = $derived(whatIf.refusal?.field ?? '')
  const tooOften = $derived(about.endsWith('.repetitions') ? refused : '')
  const cuesWrong = $derived(about.includes('.cues') ? refused : '')
  const misread = $derived(tooOften || cuesWrong ? '' : refused)

  $effect(() => {
    const id = params.id
    if (ready) untrack(() => void load(id))
  })
  $effect(() => {
    if (!drill?.rigId || !drill.traineeId) return
    const next = {
      rigId: drill.rigId,
      traineeId: drill.traineeId,
      doc: { ...$state.snapshot(drill.doc), stance: trainee?.stance ?? 'orthodox' },
    } as Schemas['DrillQuestion']
    untrack(() => {
      question = next
      void whatIf.ask(next)
    })
  })

  const load = (id: string) =>
    desk.reading(async () => {
      if (id !== 'new') await desk.open(id)
      else {
        const query = new URLSearchParams(router.querystring ?? '')
        const from = beginning(query)
        const entry = await begunWith(from)
        const rigId =
          from.rig ||
          (
            bags.data?.find((b) => b.doc.kind === entry?.kind) ??
            bags.data?.find((b) => b.doc.kind === 'doubleEnd') ??
            bags.data?.[0]
          )?.id ||
          ''
        const start =
          entry && isLine(entry.doc)
            ? entry.doc
            : ((await ask(
                api.GET('/api/first-drill/{id}', { params: { path: { id: rigId }, query: { line: true } } }),
              )) as Line)
        desk.begin(rigId, from.trainee || people.data?.[0]?.id || '', entry?.name ?? '', {
          ...start,
          ...(query.get('text') ? { text: query.get('text')! } : {}),
        })
      }
      text = doc?.text ?? ''
      past = []
      future = []
    })

  /** Another drill, remembered so that it can be undone. A name that only said what the old line was goes with it. */
  const set = (change: Partial<Line>) => doc && replace({ ...doc, ...change })
  function replace(next: Line) {
    if (!drill) return
    past = [...past.slice(-99), $state.snapshot(drill.doc) as Line]
    future = []
    outOfReach = ''
    take(next)
  }
  function take(next: Line) {
    if (!drill) return
    if (drill.name === c?.canonical) drill.name = ''
    drill.doc = next
    if (document.activeElement !== line || next.text !== text) text = next.text ?? ''
  }
  function undo() {
    const last = past.at(-1)
    if (!last || !drill) return
    future = [$state.snapshot(drill.doc) as Line, ...future]
    past = past.slice(0, -1)
    take(last)
  }
  function redo() {
    const next = future[0]
    if (!next || !drill) return
    past = [...past, $state.snapshot(drill.doc) as Line]
    future = future.slice(1)
    take(next)
  }
  function typed(value: string) {
    text = value
    if (value.trim()) set({ text: value })
  }
  const pick = (move: string) =>
    typed(
      text.trim() === '' || /\|\s*$/.test(text)
        ? `${text} ${move}`.trim()
        : move === '|' || move === '!'
          ? `${text.trimEnd()}${move === '|' ? ' | ' : '!'}`
          : `${text.trimEnd()} - ${move}`,
    )

  async function count(move: number, returns: number) {
    try {
      set({
        text: (
          await ask(
            api.POST('/api/combo-count', { body: { text: c?.canonical ?? doc?.text ?? '', move, count: returns } }),
          )
        ).text,
      })
    } catch (e) {
      toast((e as Error).message)
    }
  }
  /** The force that gives the combination a tempo inside. */
  async function atTempo(tempo: number) {
    if (!drill) return
    try {
      const found = await ask(
        api.POST('/api/combo-tempo', {
          body: {
            rigId: drill.rigId,
            traineeId: drill.traineeId,
            doc: { ...$state.snapshot(drill.doc), stance: trainee?.stance ?? 'orthodox' } as Line,
            tempo,
          },
        }),
      )
      replace(found as Line)
    } catch (e) {
      outOfReach = (e as Error).message
    }
  }
  function atFist(fist: number) {
    set({ fist: Math.round(fist * 100) / 100, ...(doc?.landing === 'free' ? {} : { tempo: 0, slower: 0 }) })
  }

  /** The index of the strike before a move. */
  const before = (i: number) => c!.moves.slice(0, i).findLastIndex((m) => m.kind === 'strike')

  /** Turns the line as it now stands to the other side, however quick the keys come. */
  async function turn(way: 'mirror' | 'counterpart') {
    await tick()
    await whatIf.settled()
    const composed = whatIf.answer?.composed
    if (composed && !whatIf.refusal) set({ text: composed[way] })
  }

  async function play() {
    if (!c || playing) return
    playing = true
    const clock = new RunClock()
    await clock.start(0.3)
    const events = [
      { at: 0, kind: 'call', text: c.call },
      ...c.events.map((e) => ({ ...e, at: e.at + spoken })),
    ].toSorted((a, b) => a.at - b.at)
    const sound = new Sound(clock, () => events)
    sound.volume = 0.8
    await new Promise((done) => setTimeout(done, 250)) // the words are fetched
    sound.start()
    setTimeout(
      () => {
        sound.stop()
        clock.close()
        playing = false
      },
      1000 * (0.3 + c.length + spoken / 1e6 + 0.6),
    )
  }
  const spoken = $derived(400_000 * (c?.moves.length ?? 0) + 300_000)

  async function save(run: boolean) {
    if (!drill || !doc) return
    drill.doc = { ...doc, text: c?.canonical ?? doc.text, stance: trainee?.stance ?? 'orthodox' }
    await desk.save(run)
  }

  function keys(e: KeyboardEvent) {
    const key = e.key.toLowerCase()
    if ((e.ctrlKey || e.metaKey) && key === 'z') (e.shiftKey ? redo : undo)()
    else if ((e.ctrlKey || e.metaKey) && key === 'y') redo()
    else if (
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      (e.target as HTMLElement).closest('input, select, textarea, [role=slider], [role=dialog]')
    )
      return
    else if (key === 'm') void turn('mirror')
    else if (key === 'c') void turn('counterpart')
    else if (key === ' ' && !(e.target as HTMLElement).closest('button, a, [role=radio]')) void play()
    else return
    e.preventDefault()
  }

  const punches = ['1', '2', '3', '4', '5', '6', '1b', '2b', '3b']
  const legs = [
    'push kick lead',
    'push kick rear',
    'round kick lead',
    'round kick rear',
    'low kick lead',
    'low kick rear',
    'knee lead',
    'knee rear',
    'elbow lead',
    'elbow rear',
  ]
  const rest = $derived([
    ...(kind === 'hanging' ? ['stop 1', 'long guard', 'jam'] : []),
    'slip lead',
    'slip rear',
    'duck',
    'roll lead',
    'roll rear',
    'pull',
    'step in',
    'step back',
    'pivot lead',
    'pivot rear',
    'switch',
    'wait',
    '|',
    '!',
  ])
  /** Shots that land flush on this bag and are not among those to pick anyway. */
  const besides = $derived((c?.flush ?? []).filter((m) => !punches.includes(m) && !legs.includes(m)))
  const still = $derived(kind === 'slip' && doc?.rhythm === 'none')
  /** Goal tempo inside: the one that was said, or the one that the hands keep freely. */
  const goal = $derived(Math.round(doc?.tempo || c?.tempo || 0))
  const marks = $derived(c?.flow ?? [])
  const lateOnes = $derived(c?.moves.map((m, i) => ({ ...m, i })).filter((m) => m.late > 0) ?? [])
  const cordOffers = (offers: Schemas['Offer'][]) => offers.filter((o) => o.what.endsWith('relaxed'))
</script>

<svelte:window onkeydown={keys} />
<svelte:head><title>Combination · Melodromos</title></svelte:head>
{#if desk.trouble}
  <Notice title="This drill could not be read" text={desk.trouble} again={() => load(params.id)}
    ><a class="button" href="#/drills">To the drills</a></Notice>
{:else if ready && (bags.data?.length === 0 || people.data?.length === 0)}
  <Notice
    title="A combination needs a bag and somebody."
    text={bags.data?.length === 0 ? 'Measure a bag first.' : 'Enter who trains here first.'}
    ><a class="button" href={bags.data?.length === 0 ? '#/bags/new' : '#/people'}
      >{bags.data?.length === 0 ? 'Add a bag' : 'To the people'}</a
    ></Notice>
{:else if !drill || !doc}
  <Notice title="Reading the drill…" />
{:else}
  <div class="flex flex-wrap items-end gap-x-4 gap-y-2">
    <label class="block min-w-44 flex-1"
      ><span class="label">For whom</span>
      <select class="input mt-1" bind:value={drill.traineeId}
        >{#each people.data ?? [] as t (t.id)}<option value={t.id}
            >{t.name}{t.stance === 'southpaw' ? ', southpaw' : ''}</option
          >{/each}</select
      ></label>
    <label class="block min-w-44 flex-1"
      ><span class="label">On which bag</span>
      <select class="input mt-1" bind:value={drill.rigId}
        >{#each bags.data ?? [] as b (b.id)}<option value={b.id}>{b.name}, {kinds.of(b.doc.kind).name}</option
          >{/each}</select
      ></label>
    <div class="ml-auto flex flex-wrap gap-2">
      <button class="button" disabled={past.length === 0} onclick={undo}>Undo</button>
      <button class="button" disabled={future.length === 0} onclick={redo}>Redo</button>
      <button class="button" disabled={!c || !!refused} onclick={() => save(false)}>Save</button>
      <button class="button main" disabled={!c || !!refused} onclick={() => save(true)}>Save and run</button>
    </div>
  </div>
  {#if desk.problem}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{desk.problem}</p>{/if}
  <ForWhom {desk} />

  <label class="mt-4 block"
    ><span class="label">What is thrown</span>
    <LineInput
      bind:field={line}
      {text}
      wrong={misread !== ''}
      place={misread ? (whatIf.refusal?.place ?? null) : null}
      describedby="said"
      onchange={typed} /></label>
  <div id="said" class="mt-1 min-h-6 {misread ? 'font-semibold' : 'text-soft'}" role={misread ? 'alert' : undefined}>
    {#if misread}{misread}{:else if c}{c.canonical === text
        ? ''
        : `Read as ${c.canonical}: `}{c.call}.{#each c.notes as n (n.column)}{' '}<b>{upper(n.said)}</b> is read as {n.read},
        {n.why}.{/each}{/if}
  </div>
  <div class="mt-1 flex flex-wrap gap-1" aria-label="Moves to pick">
    {#each punches as m (m)}<button
        class="button !min-h-9 !min-w-9 !px-2 !py-0 !border-strike text-strike"
        onclick={() => pick(m)}>{m}</button
      >{/each}
    {#each besides as m (m)}<button
        class="button !min-h-9 !px-2 !py-0 !border-strike text-sm text-strike"
        onclick={() => pick(m)}>{m}</button
      >{/each}
    {#each session.me?.kicks ? legs : [] as m (m)}<button
        class="button !min-h-9 !px-2 !py-0 !border-strike text-sm text-strike"
        onclick={() => pick(m)}>{m}</button
      >{/each}
    {#each rest as m (m)}<button
        class="button !min-h-9 !px-2 !py-0 text-sm"
        aria-label={m === '|' ? 'Next part' : m === '!' ? 'Power shot' : m}
        onclick={() => pick(m)}>{m}</button
      >{/each}
  </div>
  {#if c && c.flush.length > 0}<p class="mt-1 text-sm">
      <b>Lands flush on this bag:</b>
      {c.flush.join(', ')}.{#if c.glances.length > 0}{' '}In this line the {c.glances.join(', ')}
        {c.glances.length === 1 ? 'does' : 'do'} not.{/if}
    </p>{/if}

  {#if p && c}
    <h1 class="mt-5 text-2xl leading-tight font-extrabold tracking-tight sm:text-[1.7rem]" aria-live="polite">
      {p.sentence}
    </h1>
    <div class="mt-3 bg-sheet py-2">
      <SwingTrace
        cycle={p.cycle}
        strikes={composedStrikes(c.moves)}
        moves={composedMoves(c.moves)}
        tempo={p.shown}
        from={-0.35}
        to={Math.max(1, p.cycle.return)}
        height={300}
        choices={c.moves.map((m) => m.choices)}
        onreturn={(i, n) => count(before(i), n)} />
    </div>
    <Fit
      {question}
      name={trainee?.name.split(' ')[0] ?? ''}
      people={people.data ?? []}
      ontake={(next) => replace(next as Line)} />
    {#each c.cautions as caution (caution)}<div class="mt-2"><Caution>{caution}</Caution></div>{/each}
    <div class="mt-2 flex flex-wrap gap-2">
      <button class="button" disabled={playing} onclick={play}>{playing ? 'Playing…' : 'Hear it'}</button>
      <button class="button" onclick={() => turn('mirror')} title={c.mirror}
        >Mirror <span class="text-soft">M</span></button>
      <button class="button" onclick={() => turn('counterpart')} title={c.counterpart}
        >Counterpart <span class="text-soft">C</span></button>
      <span class="self-center text-sm text-soft">Counterpart: {c.counterpart}</span>
    </div>

    <div class="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-3">
      <section aria-label="How it flows">
        <h2 class="font-bold">Flow</h2>
        {#if marks.length === 0}<p class="text-soft">Every move grows out of the one before.</p>{/if}
        <ul>
          {#each marks as m (m.move + m.code)}
            <li class="border-b border-rope py-1.5">
              <b>{c.moves[m.move]?.text}, move {m.move + 1}:</b>
              {m.reason}.
              {#if m.suggest}<span class="text-soft">What would join: {m.suggest}.</span>{/if}
              {#if m.caution}<span class="text-soft">{m.deliberate ? 'Deliberate.' : 'A caution, no fault.'}</span
                >{:else if m.hint}<span class="text-soft">A hint, no fault.</span>{/if}
            </li>
          {/each}
          {#each c.halfBeats as h (h.move)}<li class="border-b border-rope py-1.5 text-soft">
              <b>{c.moves[h.move]?.text}, move {h.move + 1}:</b> room for one more {h.hand} hand, {ms(h.free)} to spare.
            </li>{/each}
        </ul>
        {#if c.carried.length > 0}
          <p class="mt-2 text-sm">
            <b>An error carries over.</b> Hit the first one {length(c.off, units)} beside the middle, and {c.carried
              .slice(0, 4)
              .map(
                (k, i) =>
                  `the ${c!.moves[k.move]?.text} ${i === 0 ? 'meets the bag' : 'still'} ${Math.round(k.angle)}° off its line`,
              )
              .join(', ')}: straighten the first before the rest.
          </p>
        {/if}
        {#if lateOnes.length > 0}
          <h2 class="mt-4 font-bold">Does not fit</h2>
          <ul>
            {#each lateOnes as m (m.i)}
              <li class="border-b border-rope py-1.5">
                <b>{m.text}, move {m.i + 1}, is {ms(m.late)} late.</b>
                <span class="mt-1 flex flex-wrap gap-1">
                  {#each m.offers.filter((o) => !o.what.includes('.')) as o (o.what)}
                    {#if o.what === 'return' && before(m.i) >= 0}<button
                        class="button !min-h-8 !px-2 !py-0 text-sm"
                        onclick={() => count(before(m.i), o.to)}>Meet return {o.to}</button>
                    {:else if o.what === 'fist'}<button
                        class="button !min-h-8 !px-2 !py-0 text-sm"
                        onclick={() => set({ fist: o.to })}>Strike softer: {speed(o.to, units)}</button>
                    {:else if o.what === 'tempo'}<button
                        class="button !min-h-8 !px-2 !py-0 text-sm"
                        onclick={() => set({ tempo: o.to })}>Take {o.to} a minute</button>
                    {:else}<span class="text-sm text-soft">{labelOf(o.what)}: {valueOf(o.what, o.to, units)}</span>{/if}
                  {/each}
                  {#if cordOffers(m.offers).length > 0}<span class="self-center text-sm text-soft"
                      >or softer cords: {cordOffers(m.offers)
                        .map((o) => `${labelOf(o.what).toLowerCase()} ${valueOf(o.what, o.to, units)}`)
                        .join(', ')}</span
                    >{/if}
                </span>
              </li>
            {/each}
          </ul>
        {/if}
      </section>
      <section aria-label="Balance">
        <h2 class="font-bold">Balance</h2>
        <dl class="grid grid-cols-[1fr_auto_auto] gap-x-4 text-sm">
          <dt>Moves, strikes</dt>
          <dd class="text-right font-bold">{c.balance.moves}</dd>
          <dd class="text-right font-bold">{c.balance.strikes}</dd>
          <dt>Lead, rear hand</dt>
          <dd class="text-right font-bold">{c.balance.leadHand}</dd>
          <dd class="text-right font-bold">{c.balance.rearHand}</dd>
          <dt>Head, body</dt>
          <dd class="text-right font-bold">{c.balance.head}</dd>
          <dd class="text-right font-bold">{c.balance.body}</dd>
          <dt>Straight, curved</dt>
          <dd class="text-right font-bold">{c.balance.straights}</dd>
          <dd class="text-right font-bold">{c.balance.curved}</dd>
          <dt>Slips lead, rear</dt>
          <dd class="text-right font-bold">{c.balance.slipsLead}</dd>
          <dd class="text-right font-bold">{c.balance.slipsRear}</dd>
          <dt>Defences, steps</dt>
          <dd class="text-right font-bold">{c.balance.defences}</dd>
          <dd class="text-right font-bold">{c.balance.steps}</dd>
        </dl>
        {#if kind !== 'slip' && doc.landing !== 'free' && c.moves.some((m) => m.return > 0)}
          <h2 class="mt-4 font-bold">Which return each strike meets</h2>
          <p class="text-sm text-soft">Drag a disc along the swing, or count here.</p>
          <ol class="text-sm">
            {#each c.moves as m, i (i)}
              {#if m.kind === 'strike' && m.return > 0}
                <li class="flex items-center justify-between border-b border-rope">
                  <span
                    >{m.text.replace(/:\d$/, '')}, move {i + 1}: {m.return === 1
                      ? 'the next'
                      : kind === 'speed'
                        ? `after ${m.return} rebounds`
                        : `return ${m.return}`}, {ms(m.window)}{m.share < 1
                      ? `, × ${m.share.toFixed(2)} ${m.share === 0.8 ? 'off the line' : 'curved'}`
                      : ''}</span>
                  <span
                    ><button
                      class="button quiet !min-h-8"
                      aria-label="Move {i + 1} a return earlier"
                      disabled={m.return <= 1}
                      onclick={() => count(before(i), m.return - (kind === 'speed' ? 2 : 1))}>−</button
                    ><button
                      class="button quiet !min-h-8"
                      aria-label="Move {i + 1} a return later"
                      disabled={m.return >= 8}
                      onclick={() => count(before(i), m.return + (kind === 'speed' ? 2 : 1))}>+</button
                    ></span>
                </li>
              {/if}
            {/each}
          </ol>
        {/if}
      </section>
      <section aria-label="How it is worked">
        <Choice
          label="Pace"
          value={doc.pace ?? 'combination'}
          options={[
            { value: 'flow', text: 'Flow' },
            { value: 'combination', text: 'Combination' },
            { value: 'power', text: 'Power' },
            { value: 'speed', text: 'Speed' },
            { value: 'free', text: 'Free' },
          ]}
          onchange={(pace) => set({ pace, fist: 0, tempo: 0 })} />
        <Choice
          label="Range"
          value={doc.range || 'pace'}
          options={[
            { value: 'close', text: 'Close' },
            { value: 'pace', text: 'By the pace' },
            { value: 'far', text: 'Far' },
          ]}
          onchange={(range) => set({ range })} />
        {#if kind !== 'slip'}<Choice
            label="The bag is"
            value={doc.earOnly ? 'ear' : 'seen'}
            options={[
              { value: 'seen', text: 'Seen' },
              { value: 'ear', text: 'Not seen' },
            ]}
            onchange={(v) => set({ earOnly: v === 'ear' })} />{/if}
        {#if kind !== 'slip'}<Choice
            label="Lands"
            value={doc.landing ?? 'returns'}
            options={[
              { value: 'returns', text: 'On the bag’s returns' },
              { value: 'free', text: 'Freely' },
            ]}
            onchange={(landing) => set({ landing, clock: undefined })} />{/if}
        {#if kind !== 'slip' && doc.landing !== 'free'}<Choice
            label="Who sets the time"
            value={doc.clock === 'beat' ? 'beat' : 'bag'}
            options={[
              { value: 'bag', text: 'The bag' },
              { value: 'beat', text: 'The beat' },
            ]}
            onchange={(clock) => set({ clock: clock === 'bag' ? undefined : clock })}
            note={doc.clock === 'beat'
              ? 'Each strike is held against its planned moment.'
              : 'Each strike is due when the bag comes back from the one before.'} />{/if}
        {#if (kind === 'doubleEnd' || kind === 'reflex') && doc.landing !== 'free'}<Choice
            label="Rhythm on the bag"
            value={doc.rhythm || 'every'}
            options={[
              { value: 'every', text: 'Every return' },
              { value: 'second', text: 'Every second' },
              { value: 'none', text: kind === 'reflex' ? 'Let it settle' : 'Stopped between' },
            ]}
            onchange={(rhythm) => set({ rhythm })} />{/if}
        {#if kind === 'slip'}<Choice
            label="The bag hangs"
            value={still ? 'still' : 'swings'}
            options={[
              { value: 'swings', text: 'Swinging' },
              { value: 'still', text: 'Still, as a guard' },
            ]}
            onchange={(v) =>
              set(
                v === 'still'
                  ? { rhythm: 'none', guard: 'short', noTouch: false, tempo: 0 }
                  : { rhythm: 'every', guard: 'touch', tempo: 0 },
              )} />{/if}
        {#if still}<Choice
            label="The punches"
            value={doc.guard || 'touch'}
            options={[
              { value: 'round', text: 'Go round it' },
              { value: 'through', text: 'Go through beside it' },
              { value: 'short', text: 'Stop short' },
              { value: 'touch', text: 'Touch it' },
            ]}
            onchange={(guard) => set({ guard })}
            note={doc.guard && doc.guard !== 'touch'
              ? 'Without touching: as close as can be, hands back fast.'
              : ''} />{/if}
        {#if kind === 'slip' && !still && c.balance.strikes === 0}<Choice
            label="The bag"
            value={doc.noTouch ? 'no' : 'yes'}
            options={[
              { value: 'yes', text: 'May touch' },
              { value: 'no', text: 'No touch' },
            ]}
            onchange={(v) => set({ noTouch: v === 'no' })}
            note={doc.noTouch ? 'An obstacle only: the window counts × 0.8.' : ''} />{/if}
        {#if kind === 'slip' && !still}<Field
            label="Drawn back"
            value={c.pull}
            min={0.1}
            max={1.5}
            step={0.01}
            {...shownAs('height', units)}
            onchange={(pull) => set({ pull })} />
        {:else if c.ties.length > 0 && c.inside != null}<Tied
            ties={c.ties}
            fist={c.fist}
            inside={c.inside}
            effort={p.effort}
            {units}
            problem={outOfReach}
            onfist={atFist}
            ontempo={(t) => void atTempo(t)} />
        {:else}<Field
            label="Fist speed, {p.effort}"
            value={c.fist}
            min={0.5}
            max={12}
            step={0.1}
            {...shownAs('speed', units)}
            onchange={atFist}
            note={doc.landing === 'free' || still
              ? ''
              : 'On this bag force sets the window more than the tempo.'} />{/if}
        {#if (doc.landing === 'free' && kind !== 'slip') || still}<Field
            label="Goal tempo inside the combination"
            value={c.tempo}
            min={20}
            max={500}
            step={1}
            unit="/min"
            onchange={(tempo) => set({ tempo, ...(doc.slower && doc.slower >= tempo ? { slower: 0 } : {}) })} />{/if}
        {#if goal > 0 && (kind !== 'slip' || still)}<Field
            label="Still right down to"
            value={c.slower || goal}
            min={10}
            max={Math.max(11, Math.round(goal))}
            step={1}
            unit="/min"
            onchange={(v) => set({ tempo: goal, slower: v < goal ? Math.round(v) : 0 })}
            note={c.slower
              ? `The round is held against ${goal} and ${c.slower} a minute.`
              : 'A slower tempo that is still acceptable: none is said.'} />{/if}
        <Field
          label="Wait between repetitions"
          value={doc.pause ?? 2}
          min={0}
          max={20}
          step={0.25}
          unit="s"
          digits={2}
          onchange={(pause) => set({ pause })} />
        {#if doc.work}<Field
            label="From bell to bell"
            value={doc.work}
            min={10}
            max={600}
            step={5}
            unit="s"
            onchange={(work) => set({ work })} />
        {:else}<Field
            label="Repetitions"
            value={doc.repetitions ?? 10}
            min={1}
            max={100}
            most={2000}
            step={1}
            unit=""
            problem={tooOften}
            onchange={(repetitions) => set({ repetitions })} />{/if}
        <Choice
          label="Ends by"
          value={doc.work ? 'time' : 'count'}
          options={[
            { value: 'time', text: 'The bell' },
            { value: 'count', text: 'Repetitions' },
          ]}
          onchange={(v) => set(v === 'time' ? { work: 60, repetitions: 0 } : { work: 0, repetitions: 10 })}
          note={refused ? '' : `${c.times} repetitions, ${duration(p.seconds)} from bell to bell.`} />
        <Choice
          label="Called"
          value={doc.guidance ?? 'fading'}
          options={[
            { value: 'fading', text: 'Fading' },
            { value: 'called', text: 'Always' },
            { value: 'partly', text: 'Every second' },
            { value: 'alone', text: 'Never' },
          ]}
          onchange={(guidance) => set({ guidance })} />
        <Choice
          label="By"
          value={doc.names ? 'names' : 'numbers'}
          options={[
            { value: 'numbers', text: 'Numbers' },
            { value: 'names', text: 'Names' },
          ]}
          onchange={(v) => set({ names: v === 'names' })} />
        {#if c.balance.slipsLead + c.balance.slipsRear > 0}<Choice
            label="Slips by"
            value={doc.inside ? 'inside' : 'sides'}
            options={[
              { value: 'sides', text: 'Lead and rear' },
              { value: 'inside', text: 'Inside and outside' },
            ]}
            onchange={(v) => set({ inside: v === 'inside' })} />{/if}
        <Surprise
          cues={doc.cues}
          problem={cuesWrong}
          onchange={(cues) => {
            const { cues: _, ...rest } = $state.snapshot(doc) as Line
            replace(cues ? { ...rest, cues } : rest)
          }} />
        <label class="mt-2 block"
          ><span class="label">Name, if it shall have its own</span><input
            class="input mt-1"
            maxlength="120"
            bind:value={drill.name}
            placeholder={c.canonical} /></label>
      </section>
    </div>
    <Cards cards={p.cards} />
  {/if}
{/if}
