<!-- Serves the floor: the trainee a few metres off, and the coach with one thumb free. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy } from 'svelte'
  import { push } from 'svelte-spa-router'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { bands, count, countdown, markNames, side, upper } from '../lib/format'
  import { editorOf, isLine } from '../lib/drills/doc'
  import BagPicture from '../lib/run/BagPicture.svelte'
  import SwayPicture from '../lib/run/SwayPicture.svelte'
  import { kept } from '../lib/run/delay'
  import { lastRecorder, rememberRecorder } from '../lib/run/recorder'
  import { Round, type Plays } from '../lib/run/round.svelte'
  import { session } from '../lib/session.svelte'
  import { composedMoves, composedStrikes, sample } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import Mark from '../lib/ui/Mark.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const round = new Round((id) => {
    void client.invalidateQueries()
    void push(`/review/${id}`)
  })
  const ready = createQuery(() => ({
    queryKey: ['run', params.id],
    queryFn: async () => {
      const drill = await ask(api.GET('/api/assignments/{id}', { params: { path: { id: params.id } } }))
      const [trainee, rig] = await Promise.all([
        ask(api.GET('/api/trainees/{id}', { params: { path: { id: drill.traineeId } } })),
        ask(api.GET('/api/rigs/{id}', { params: { path: { id: drill.rigId } } })),
      ])
      const [preview, outlook] = await Promise.all([
        ask(
          api.POST('/api/compose', {
            body: { rigId: drill.rigId, doc: drill.doc, traineeId: drill.traineeId, glance: true },
          }),
        ),
        ask(api.GET('/api/assignments/{id}/outlook', { params: { path: { id: params.id } } })),
      ])
      return { drill, trainee, rig, preview, outlook }
    },
  }))
  type Band = Schemas['StandInChoice']['ability']
  type Source = Schemas['NewRun']['source']
  let source = $state<Source>(lastRecorder())
  let chosen = $state<Plays | ''>('') // how it runs, where the coach chose
  const ways = $derived((ready.data?.preview.plays[source] ?? ['beat']) as Plays[])
  const plays = $derived(chosen && ways.includes(chosen) ? chosen : (ways[0] ?? 'beat'))
  const wayNames: Record<Plays, string> = {
    beat: 'Play the beat',
    follow: 'Follow my hits',
    startThenFollow: 'Start me, then follow',
  }
  const wayNotes = $derived<Record<Plays, string>>({
    beat:
      source === 'none'
        ? 'The clock, the calls and the bag as planned. You may mark what you see.'
        : 'Plays the plan, whatever the hits do.',
    follow:
      source === 'keys'
        ? 'The bag is on the screen: your taps strike it, miss it and find it again.'
        : 'The picture and the board sounds answer each hit.',
    startThenFollow: 'Plays the first strikes, then lets go: from there the bag answers the hits.',
  })
  const recorders = $derived<{ value: Source; text: string }[]>([
    { value: 'keys', text: 'Taps' },
    { value: 'device', text: 'Bag sensor' },
    { value: 'none', text: 'Nothing' },
    ...(session.me?.demo ? [{ value: 'standin' as const, text: 'Demo hits' }] : []),
  ])
  let ability = $state<Band>('intermediate')
  let seed = $state(Math.floor(Math.random() * 1e6))
  const stance = $derived(ready.data?.trainee.stance ?? 'orthodox')
  const leftHand = $derived(stance === 'orthodox' ? 'lead' : 'rear')
  const rightHand = $derived(stance === 'orthodox' ? 'rear' : 'lead')
  const live = $derived(round.phase !== 'ready' && round.phase !== 'starting' && round.run)
  let pressed = $state('')
  let traceHeight = $state(300)
  let traceWidth = $state(800)

  function start() {
    if (ready.data?.outlook.barred) return
    rememberRecorder(source)
    void round.start(params.id, source, plays, { ability, seed })
  }
  function record(by: Source) {
    source = by
    if (round.run && round.run.source !== by) round.run = null
  }
  // A round that is refused may be so for what others have changed since the page was read.
  $effect(() => {
    if (round.problem) void ready.refetch()
  })
  const kinds = Object.keys(markNames) as Schemas['MarkIn']['kind'][]

  function strike(hand: string, page: number) {
    round.hit(hand, page)
    pressed = hand
    setTimeout(() => (pressed = ''), 110)
  }

  function keys(e: KeyboardEvent) {
    if (e.ctrlKey || e.metaKey || e.altKey || e.repeat) return
    const typing = (e.target as HTMLElement).closest('input, select, textarea')
    const pressing = (e.target as HTMLElement).closest('button, a, [role=radio]')
    const key = e.key.toLowerCase()
    const forth = key === ' ' || key === 'pagedown' || key === 'arrowright' // a page-turner pedal sends these
    if (live) {
      if (key === 'f') strike(leftHand, e.timeStamp)
      else if (key === 'j') strike(rightHand, e.timeStamp)
      else if (forth) void round.togglePause()
      else if (key === 'escape' || key === 'pageup' || key === 'arrowleft') void round.stop()
      else if (key === 'm') round.mute()
      else if (kinds[Number(key) - 1]) round.mark(kinds[Number(key) - 1]!)
      else return
    } else if (forth && !typing && (!pressing || (key === ' ' && pressing.getAttribute('data-state') === 'checked')))
      start()
    else if (key === 'escape') void push('/')
    else return
    e.preventDefault()
  }

  onDestroy(() => round.leave())
  // A long combination is called smaller, so that the whole of it stands there.
  const callSize = $derived(
    round.call.length <= 16 || round.countIn > 0
      ? 'text-5xl sm:text-6xl lg:text-8xl wall:text-[9rem]'
      : round.call.length <= 50
        ? 'text-3xl sm:text-4xl lg:text-5xl wall:text-7xl'
        : 'text-xl sm:text-2xl lg:text-3xl wall:text-5xl',
  )
</script>

<svelte:head
  ><title>{ready.data ? `${ready.data.trainee.name}, ${ready.data.drill.name}` : 'Round'} · Melodromos</title
  ></svelte:head>
<svelte:window onkeydown={keys} onpagehide={() => round.leave()} />
<svelte:document onvisibilitychange={() => round.seenAgain()} />

<main class="flex h-dvh flex-col overflow-hidden bg-ground text-ink select-none" data-phase={round.phase}>
  {#if ready.isError}
    <div class="p-6">
      <Notice title="This drill cannot be run" text={ready.error.message} again={() => ready.refetch()}
        ><a class="button" href="#/">To today</a></Notice>
    </div>
  {:else if !ready.data}
    <div class="p-6"><Notice title="Reading the drill…" /></div>
  {:else if !live}
    {@const { drill, trainee, rig, preview, outlook } = ready.data}
    <div class="mx-auto flex w-full max-w-6xl flex-1 flex-col gap-5 overflow-y-auto p-5 sm:p-8">
      <header class="flex items-center gap-3">
        <Mark size={36} />
        <p class="text-soft">Ready for the floor</p>
        <a class="button ml-auto" href="#/">Leave</a>
      </header>
      <div class="grid items-end gap-x-10 gap-y-3 lg:grid-cols-[1fr_auto]">
        <div>
          <h1 class="figure text-5xl sm:text-7xl">{trainee.name}</h1>
          <p class="mt-2 text-xl text-pretty">{drill.name} on the {rig.name}. {preview.sentence}</p>
          <p class="mt-1 text-soft">
            {preview.strikes} strikes, {countdown(preview.seconds)} from bell to bell. {#if !isLine(drill.doc)}First
              hand: {drill.doc.firstHand}, the {side(
                drill.doc.firstHand as 'lead' | 'rear',
                stance,
              )}.{:else if preview.composed}{preview.composed.times} repetitions of {preview.composed.canonical}.{/if}
          </p>
        </div>
        <dl class="flex flex-wrap gap-x-10 gap-y-2">
          <div>
            <dt class="label">Goal in a row{outlook.best > 0 ? `, best ${outlook.best}` : ''}</dt>
            <dd class="figure text-5xl">{outlook.target}</dd>
          </div>
          {#if outlook.clean > 0}<div>
              <dt class="label" title={outlook.made}>Meet the bag, expected</dt>
              <dd class="figure text-5xl">{Math.round(100 * outlook.clean)}<span class="text-2xl"> %</span></dd>
            </div>{/if}
        </dl>
      </div>
      {#if outlook.held}<p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
          {outlook.barred ? `No round starts. ${upper(outlook.held)}` : `Held back: ${outlook.held}`}.
          <a href="#/people/{trainee.id}">To {trainee.name}</a>
        </p>{/if}
      {#if outlook.spared.length > 0}<p class="border-l-4 border-rope pl-3">
          As long as the caution stands: {outlook.spared.join('; ')}.
        </p>{/if}
      {#if preview.problem}<p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
          {preview.problem} <a href="#{editorOf(drill.doc, drill.id)}">Change the drill</a>
        </p>{/if}
      <div class="bg-sheet py-2">
        <SwingTrace
          cycle={preview.cycle}
          strikes={preview.composed ? composedStrikes(preview.composed.moves) : sample(preview.cycle, preview.pattern)}
          moves={preview.composed ? composedMoves(preview.composed.moves) : []}
          tempo={preview.shown}
          from={-0.2}
          to={preview.composed ? preview.cycle.return : preview.cycle.return * 2 + 0.2}
          height={270} />
      </div>
      <div class="grid gap-x-10 gap-y-3 md:grid-cols-[1fr_auto]">
        <div>
          <Choice label="Hits recorded by" value={source} options={recorders} onchange={record} />
          {#if source === 'keys'}<p class="mt-1 text-sm text-soft">
              The pads on the screen, or the keys F and J. {kept()
                ? `This device is ${Math.round(1000 * (kept()?.late ?? 0))} ms late, which is taken off.`
                : ''} <a href="#/delay">{kept() ? 'Measure it again' : 'Measure the delay of this device'}</a>
            </p>{/if}
          {#if source === 'standin'}
            <Choice
              label="They hit like"
              value={ability}
              options={Object.entries(bands).map(([value, text]) => ({ value: value as Band, text }))}
              onchange={(v) => (ability = v)}
              note="Simulated, for trying things out: these hits are nobody's." />
          {:else if source === 'device'}
            {#if round.run?.intakeKey}
              <p class="mt-1">
                Send hits to <code class="font-semibold break-all"
                  >{location.origin}/api/intake/{round.run.intakeKey}</code>
              </p>
              <p class="text-sm text-soft">
                The key is for this round alone. Join the sensor, then start. None at hand? <button
                  class="underline"
                  onclick={() => record('none')}>Run with nothing recorded</button>
              </p>
            {:else}
              <button class="button mt-1" onclick={() => round.prepare(params.id, 'device', plays)}
                >Make the key for this round</button>
              <p class="mt-1 text-sm text-soft">
                None at hand? <button class="underline" onclick={() => record('none')}
                  >Run with nothing recorded</button>
              </p>
            {/if}
          {/if}
          {#if ways.length > 1}
            <Choice
              label={preview.keptBy === 'bag' ? 'The bag sets the time' : 'The beat sets the time'}
              value={plays}
              options={ways.map((value) => ({ value, text: wayNames[value] }))}
              onchange={(v) => (chosen = v)}
              note={wayNotes[plays]} />
          {:else}
            <p class="mt-2">
              <span class="label">{preview.keptBy === 'bag' ? 'The bag sets the time' : 'The beat sets the time'}</span
              ><br />{wayNotes.beat}
            </p>
          {/if}
        </div>
        <div class="flex flex-col items-stretch gap-2 self-end md:row-span-2">
          <button
            class="button main min-h-16! px-12! text-2xl!"
            disabled={!!preview.problem || outlook.barred || round.phase === 'starting'}
            onclick={start}>Start</button>
          <p class="text-center text-sm text-soft">or Space</p>
        </div>
      </div>
      <div class="max-w-prose"><Caution>{preview.before.join(' ')}</Caution></div>
      {#if round.problem}<p class="border-l-4 border-ink pl-3 font-semibold" role="alert">{round.problem}</p>{/if}
    </div>
  {:else if round.run}
    {@const run = round.run}
    <header class="flex items-center gap-4 px-4 pt-3 sm:px-6">
      <div class="min-w-0">
        <p class="line-clamp-2 text-lg leading-tight font-bold sm:text-2xl wall:text-4xl">{run.trainee.name}</p>
        <p class="hidden truncate text-soft sm:block wall:text-2xl">
          {run.drillName}{!isLine(run.doc) || run.doc.tempo ? `, ${Math.round(run.tempo)} a minute` : ''}.
          <span data-testid="plays"
            >{round.follows
              ? 'The bag follows the hits'
              : run.plays === 'startThenFollow'
                ? 'Plays, then follows the hits'
                : run.timeline.clock === 'bag' && run.plays === 'follow'
                  ? 'Waits for the first hit'
                  : 'Plays the beat'}</span>
        </p>
      </div>
      <p class="figure ml-auto text-5xl sm:text-7xl wall:text-9xl" role="timer" aria-label="left">
        {countdown(round.left)}
      </p>
      <button
        class="button min-h-16! min-w-16! wall:min-h-24! wall:px-8! wall:text-3xl!"
        onclick={() => round.togglePause()}
        disabled={round.phase === 'ending'}>{round.phase === 'paused' ? 'Go on' : 'Pause'}</button>
      <button
        class="button min-h-16! min-w-16! wall:min-h-24! wall:px-8! wall:text-3xl!"
        onclick={() => round.stop()}
        disabled={round.phase === 'ending'}>Stop</button>
    </header>

    <div
      class="grid min-h-0 flex-1 grid-cols-1 grid-rows-[auto_1fr] gap-2 px-4 py-2 sm:px-6 lg:grid-cols-[minmax(16rem,26%)_1fr] lg:grid-rows-1">
      <section class="flex min-h-0 items-center gap-4 lg:flex-col lg:items-stretch lg:justify-center">
        <div class="h-28 w-40 shrink-0 sm:h-36 sm:w-52 lg:h-[38%] lg:w-full">
          {#if run.rig.kind === 'speed' && run.cycle.starts.length === 0}<BagPicture
              cycle={run.cycle}
              rig={run.rig}
              strikes={round.strikes}
              clock={round.now} />{:else if run.rig.kind !== 'speed'}<SwayPicture
              cycle={run.cycle}
              rig={run.rig}
              strikes={round.strikes}
              clock={round.now} />{/if}
        </div>
        <p class="figure text-balance first-letter:uppercase {callSize}" aria-live="assertive" data-testid="call">
          {#if round.phase === 'ending'}Time{:else if round.phase === 'paused'}Paused{:else if round.countIn > 0}{round.countIn}{:else}{round.call}{/if}
        </p>
      </section>
      <section class="flex min-h-0 min-w-0 flex-col justify-center" aria-label="The bag's swing, moving">
        <div class="flex min-h-0 flex-1 items-center" bind:clientHeight={traceHeight} bind:clientWidth={traceWidth}>
          <SwingTrace
            cycle={run.cycle}
            strikes={round.strikes}
            tempo={run.tempo}
            moves={round.moves}
            clock={round.now}
            hits={round.hits}
            height={Math.max(150, Math.min(traceHeight, Math.max(330, traceWidth * 0.58)))}
            span={(run.cycle.passes.length > 0 ? 1.8 : 1) * Math.max(1.2, Math.min(2.2, traceWidth / 560))}
            axis={false} />
        </div>
        {#if round.outbox?.foreign}
          <p class="border-l-4 border-ink pl-3 font-semibold" role="alert">
            Somebody else is signed in with this browser. {round.outbox.waiting} hits and marks are kept here and sent when
            you sign in again.
          </p>
        {:else if round.outbox?.offline}
          <p class="border-l-4 border-ink pl-3 font-semibold" role="alert">
            No connection. {round.outbox.waiting} hits and marks are kept here and sent as soon as it is back.
          </p>
        {:else if round.phase === 'paused'}
          <p class="text-lg text-soft">
            Paused at {countdown(round.left)} to go. Space goes on, Escape stops and keeps the hits.
          </p>
        {/if}
      </section>
    </div>

    <footer class="grid grid-cols-2 gap-2 px-4 pb-4 sm:px-6 md:grid-cols-[1fr_minmax(0,22rem)_1fr]">
      {#if run.source === 'keys'}
        {#each [{ hand: leftHand, key: 'F', place: 'order-2 md:order-1' }, { hand: rightHand, key: 'J', place: 'order-3' }] as pad (pad.key)}
          <button
            class="relative min-h-32 rounded-[3px] border-2 border-rope bg-sheet px-4 text-left {pad.place} disabled:opacity-50"
            disabled={round.phase === 'ending'}
            onpointerdown={(e) => strike(pad.hand, e.timeStamp)}
            aria-label="Hit with the {pad.hand} hand">
            <!-- a small disc alone answers a tap: nothing larger may flash -->
            <span
              class="absolute top-4 right-4 size-6 rounded-full border-2 border-strike {pressed === pad.hand
                ? 'bg-strike'
                : ''}"></span>
            <span class="figure block text-4xl capitalize">{pad.hand}</span>
            <span class="text-sm">{side(pad.hand, stance)} hand, key {pad.key}</span>
          </button>
        {/each}
      {/if}
      <div
        class="order-1 col-span-2 grid grid-cols-5 gap-1 md:order-2 {run.source === 'keys'
          ? 'md:col-span-1'
          : 'md:col-span-3'}"
        role="group"
        aria-label="Marks">
        {#each kinds as kind, i (kind)}
          <button
            class="min-h-16 rounded-[3px] border-2 border-rope px-0.5 text-[0.8125rem] leading-tight font-semibold hover:bg-shade wall:min-h-24 wall:text-2xl"
            disabled={round.phase === 'ending'}
            onclick={() => round.mark(kind)}>
            <span class="block text-soft">{i + 1}</span>{markNames[kind]}
          </button>
        {/each}
        <p class="col-span-5 flex justify-between text-sm text-soft wall:text-xl">
          <span
            >{run.source === 'none' ? 'nothing recorded' : count(round.hits.length, 'hit')}, {count(
              round.marks,
              'mark',
            )}</span>
          <button class="min-h-8 px-2 underline" onclick={() => round.mute()}
            >{round.muted ? 'Sound on' : 'Sound off'} (M)</button>
        </p>
      </div>
    </footer>
  {/if}
</main>
