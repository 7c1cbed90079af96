<!-- The swing trace: the bag's motion over time under its boards, the window in which it can be struck, and the hands'
     way out and back below. One picture for bench, drill, run and review.

     A slip bag, which nobody has to strike, is drawn from letting go: each pass a crossing stroke, and before it the stretch
     in which a slip may be begun, with an open lozenge.

     Still, it shows from `from` to `to`. With a `clock` it moves past a fixed now-line, in step with that clock. A strike is
     a filled disc with the letter of its hand (B for both, a square ring about a trap), a board sound a short upright tick, a
     hit that was captured a ring. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import {
    after,
    curve,
    describe,
    free,
    handPath,
    handsOf,
    hitSwing,
    inFilm,
    met,
    middle,
    swingAt,
    timeSteps,
    windows,
    type Cycle,
    type TraceHit,
    type TraceMove,
    type TraceStrike,
  } from './geometry'

  type Props = {
    cycle: Cycle
    strikes: TraceStrike[]
    tempo: number
    from?: number
    to?: number
    span?: number // s across, with a clock
    clock?: () => number // s
    hits?: TraceHit[]
    height?: number
    axis?: boolean
    chosen?: number // index of a strike to point out
    moves?: TraceMove[] // defences and steps
    choices?: { count: number; at: number }[][] // returns that a strike could meet, by its i; with onreturn its disc is dragged there
    onreturn?: (i: number, count: number) => void
  }
  let {
    cycle,
    strikes,
    tempo,
    from = 0,
    to = 1,
    span = 3,
    clock,
    hits = [],
    height = 300,
    axis = true,
    chosen,
    moves = [],
    choices = [],
    onreturn,
  }: Props = $props()

  const id = $props.id()
  let width = $state(800)
  let chunk = $state(0) // s, where the drawn stretch of a moving trace begins
  let moving = $state<SVGSVGElement>()
  let nowLine = $state<SVGGElement>()

  const nowAt = 0.3 // of the plot's width
  const left = 64 // the labels' margin
  const right = 14
  const plot = $derived(Math.max(1, width - left - right))
  const scale = $derived(plot / (clock ? span : to - from))
  // A moving trace is drawn three plots long and pushed along as a whole, which costs no drawing anew; once a plot's length
  // has gone by, the next stretch is drawn.
  const begin = $derived(clock ? chunk - span : from)
  const end = $derived(clock ? chunk + 2 * span : to)

  // From the top: the far board, the swing, the near board, a lane for each hand, the axis.
  const film = $derived(cycle.starts.length > 0) // the trace is that of a whole combination and begins anew with each repetition
  const bare = $derived(!film && cycle.passes.length > 0) // a slip bag alone: nobody strikes
  const foot = $derived(axis ? 26 : 6)
  const lane = $derived(Math.max(26, Math.min(54, height * 0.13)))
  const lanes = $derived(bare ? height - foot - 6 : height - foot - 2 * lane - 8)
  const top = 12
  const bottom = $derived(lanes - 18)
  const x = $derived((t: number) => (t - begin) * scale)
  // A bag that is met before it goes to the near side needs no room there.
  const lowest = $derived(cycle.mirrored || cycle.trace.some((p) => p.swing < -0.3) ? -1 : -0.3)
  const y = $derived((swing: number) => bottom - ((swing - lowest) / (1 - lowest)) * (bottom - top))

  const near = $derived(strikes.filter((s) => s.at >= begin - cycle.return && s.at <= end + cycle.return))
  const seen = $derived(near.filter((s) => s.at >= begin - 0.2 && s.at <= end + 0.2))
  const seenHits = $derived(hits.filter((h) => h.at >= begin && h.at <= end))
  const begins = $derived(film ? cycle.starts.filter((b) => b + cycle.return >= begin && b <= end) : [0])
  const boards = $derived(
    (film
      ? begins.flatMap((b) => cycle.marks.map((m, n) => ({ key: `${b}.${n}`, at: b + m.at, side: m.swing })))
      : near.flatMap((s) =>
          after(cycle, s).marks.map((m, n) => ({ key: `${s.i}.${n}`, at: s.at + m.at, side: m.swing * (s.side ?? 1) })),
        )
    ).filter((b) => b.at >= begin && b.at <= end),
  )
  const boarded = $derived(cycle.contact > 0)
  const passes = $derived(begins.flatMap((b) => cycle.passes.map((p) => ({ ...p, at: p.at + b, opens: p.opens + b }))))
  const hands = $derived(bare ? [] : ['lead', 'rear'])
  const seenMoves = $derived(moves.filter((m) => m.until >= begin && m.at <= end))
  const mid = $derived(middle(cycle))
  const disc = $derived(Math.max(9, Math.min(clock ? 26 : 15, film ? 26 : scale * (cycle.return / 6), height / 14)))
  const swingOf = (t: number) => swingAt({ ...cycle, return: Infinity }, t)
  const floorOf = (hand: string) => lanes + (hand === 'lead' ? lane : 2 * lane + 8) - 2
  const roofOf = (hand: string) => floorOf(hand) - lane + 12
  const letter = (hand: string) => (hand === 'both' ? 'B' : hand === 'lead' ? 'L' : 'R')
  const label = $derived(clock && height > 480 ? 20 : 12) // read from across the room on a wall
  const words = $derived(describe(cycle, tempo, strikes))

  // A disc that is being dragged: the returns it could meet, and the nearest of them.
  let held = $state<{ i: number; at: number } | null>(null)
  const targets = $derived(held ? (choices[held.i] ?? []) : [])
  const nearest = $derived(
    held && targets.length > 0
      ? targets.reduce((a, b) => (Math.abs(b.at - held!.at) < Math.abs(a.at - held!.at) ? b : a))
      : null,
  )
  const movable = (i: number) => !!onreturn && (choices[i]?.length ?? 0) > 1
  function grab(e: PointerEvent, i: number, at: number) {
    if (!movable(i)) return
    const from = e.clientX
    const own = e.currentTarget as Element
    own.setPointerCapture(e.pointerId)
    held = { i, at }
    const drag = (m: Event) => held && (held = { i, at: at + ((m as PointerEvent).clientX - from) / scale })
    const drop = (up: Event) => {
      own.removeEventListener('pointermove', drag)
      const to = nearest
      held = null
      if (up.type === 'pointerup' && to && Math.abs(to.at - at) > 1e-6) onreturn!(i, to.count)
    }
    own.addEventListener('pointermove', drag)
    own.addEventListener('pointerup', drop, { once: true })
    own.addEventListener('pointercancel', drop, { once: true })
  }

  onMount(() => {
    if (!clock) return
    const read = clock
    // Where motion is unwelcome the trace stands still, a page at a time, and the now-line goes along it.
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches
    let frame = 0
    const step = () => {
      const now = read()
      if (now < chunk || now > chunk + span) chunk = Math.floor(now / span) * span
      if (moving)
        moving.style.transform = `translateX(${(still ? -plot : nowAt * plot - (now - (chunk - span)) * scale).toFixed(2)}px)`
      nowLine?.setAttribute(
        'transform',
        `translate(${(left + (still ? (now - chunk) * scale : nowAt * plot)).toFixed(1)} 0)`,
      )
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  })
</script>

<div class="relative w-full overflow-hidden" style:height={`${height}px`} bind:clientWidth={width}>
  <svg {width} {height} class="absolute inset-0 block select-none" aria-hidden="true">
    {#each lowest === -1 ? [1, -1] : [1] as side (side)}
      <line
        x1={left}
        x2={width - right}
        y1={y(side)}
        y2={y(side)}
        stroke={boarded ? 'var(--brass)' : 'var(--rope)'}
        stroke-width={boarded ? 2 : 1} />
      <text x={left - 8} y={y(side) + 4} text-anchor="end" class="fill-brass font-semibold" font-size={label}
        >{side === 1 ? 'far' : 'near'}</text>
    {/each}
    <line
      x1={left}
      x2={width - right}
      y1={y(0)}
      y2={y(0)}
      stroke="var(--rope)"
      stroke-width="1"
      stroke-dasharray="2 5" />
    <text x={left - 8} y={y(0) + 4} text-anchor="end" class="fill-soft" font-size={label}
      >{cycle.passes.length > 0 ? (label > 12 ? 'low' : 'low point') : boarded ? 'hangs' : 'at rest'}</text>
    {#each hands as hand (hand)}
      <line
        x1={left}
        x2={width - right}
        y1={floorOf(hand)}
        y2={floorOf(hand)}
        stroke="var(--rope)"
        stroke-width="1.5" />
      <text x={left - 8} y={floorOf(hand) - 6} text-anchor="end" class="fill-ink font-bold" font-size={label + 1}
        >{hand === 'lead' ? 'Lead' : 'Rear'}</text>
    {/each}
    {#if clock}
      <g bind:this={nowLine}>
        <line y1={0} y2={height - foot} stroke="var(--ink)" stroke-width="2" />
        <text x="6" y={lanes - 13 + label} class="fill-ink font-bold" font-size={label}>now</text>
      </g>
    {/if}
  </svg>

  <div class="absolute top-0 h-full overflow-hidden" style:left={`${left}px`} style:right={`${right}px`}>
    <svg
      bind:this={moving}
      width={clock ? 3 * plot : plot}
      {height}
      class="block select-none {clock ? 'will-change-transform' : ''}"
      role="img"
      aria-labelledby="{id}-words">
      <title id="{id}-words">{words}</title>
      <path
        d={windows(cycle, seen, { x, y })}
        fill="none"
        stroke="var(--strike)"
        stroke-opacity="0.26"
        stroke-width="18" />
      <path
        d={windows(cycle, seen, { x, y })}
        fill="none"
        stroke="var(--strike)"
        stroke-width="1.5"
        stroke-dasharray="3 3" />
      {#each passes as p (p.at)}
        {@const b = film ? (begins.findLast((v) => v <= p.at) ?? 0) : 0}
        {#if p.window > 0}<path
            d={free(cycle.trace, { x: (t) => x(t + b), y }, p.opens - b, p.opens + p.window - b)}
            fill="none"
            stroke="var(--blue)"
            stroke-opacity="0.3"
            stroke-width="16" />{/if}
      {/each}
      <path
        d={film
          ? begins.map((b) => free(cycle.trace, { x: (t) => x(t + b), y })).join('')
          : bare
            ? free(cycle.trace, { x, y })
            : curve(cycle, near, { x, y })}
        fill="none"
        stroke="var(--ink)"
        stroke-width={clock ? 3.5 : 2.5}
        stroke-linejoin="round" />
      {#each bare ? cycle.marks : [] as m (m.at)}
        <line
          x1={x(m.at)}
          x2={x(m.at)}
          y1={y(m.swing) - 8}
          y2={y(m.swing) + 8}
          stroke="var(--brass)"
          stroke-width="3" />
      {/each}
      {#each passes as p (p.at)}
        {@const level = y(p.speed === 0 ? -1 : 0)}
        <path d="M{x(p.at) - 9} {level + 12}L{x(p.at) + 9} {level - 12}" stroke="var(--blue)" stroke-width="3.5" />
        {#if p.window > 0 && bare}
          {@const cx = x(p.opens + p.window / 2)}
          {@const cy = y(swingOf(p.opens + p.window / 2))}
          <path
            d="M{cx - 9} {cy}L{cx} {cy - 11}L{cx + 9} {cy}L{cx} {cy + 11}Z"
            fill="var(--sheet)"
            stroke="var(--blue)"
            stroke-width="2.5" />
        {/if}
      {/each}
      {#each seenMoves as m (m.at + m.text)}
        {@const mark =
          passes.length > 0 && m.kind === 'defence'
            ? m.at
            : (m.at + m.until) / 2}<!-- against a pass it counts when it begins -->
        {@const cx = x(mark)}
        {@const cy = y(inFilm(cycle, mark))}
        <line
          x1={x(m.at)}
          x2={x(m.until)}
          y1={cy}
          y2={cy}
          stroke="var(--blue)"
          stroke-width="2"
          stroke-dasharray={m.kind === 'step' ? '3 3' : undefined} />
        {#if m.kind === 'defence'}<path
            d="M{cx - 10} {cy}L{cx} {cy - 12}L{cx + 10} {cy}L{cx} {cy + 12}Z"
            fill="var(--sheet)"
            stroke="var(--blue)"
            stroke-width="2.5" />{/if}
        <text
          x={cx}
          y={cy < 34 ? cy + 28 : cy - 17}
          text-anchor="middle"
          class="fill-blue font-semibold"
          font-size={label}>{m.text}</text>
      {/each}
      {#each boards as b (b.key)}
        <line
          x1={x(b.at)}
          x2={x(b.at)}
          y1={y(b.side) - 9}
          y2={y(b.side) + 9}
          stroke="var(--brass)"
          stroke-width={boarded ? 4 : 3} />
      {/each}
      {#each seen as s (s.i)}
        {@const cx = x(s.at + (film ? 0 : mid))}
        {@const cy = y(film ? inFilm(cycle, s.at) : met(cycle) * (s.side ?? 1))}
        {@const lanesOf = handsOf(s.hand)}
        {@const hollow = !!s.verdict && s.verdict !== 'clean'}
        {#each lanesOf as hand (hand)}<path
            d={handPath(cycle, s.at + (film ? 0 : mid), x, floorOf(hand), roofOf(hand))}
            fill="none"
            stroke="var(--soft)"
            stroke-width="2" />{/each}
        <line
          x1={cx}
          x2={cx}
          y1={cy}
          y2={roofOf(lanesOf.at(-1)!)}
          stroke="var(--strike)"
          stroke-width="1"
          stroke-dasharray="1 4" />
        {#if s.pin}<rect
            x={cx - disc - 4}
            y={cy - disc - 4}
            width={2 * disc + 8}
            height={2 * disc + 8}
            fill="none"
            stroke="var(--strike)"
            stroke-width="2" />{/if}
        {#if chosen === s.i}<circle {cx} {cy} r={disc + 6} fill="none" stroke="var(--ink)" stroke-width="2" />{/if}
        <!-- svelte-ignore a11y_no_static_element_interactions -- the same is done by buttons beside the picture -->
        <circle
          class="strike {movable(s.i) ? 'cursor-grab touch-none' : ''}"
          onpointerdown={(e) => grab(e, s.i, s.at)}
          {cx}
          {cy}
          r={disc}
          fill={hollow ? 'var(--sheet)' : 'var(--strike)'}
          stroke="var(--strike)"
          stroke-width="2.5"
          stroke-dasharray={s.verdict === 'missed' ? '3 3' : undefined} />
        <text
          x={cx}
          y={cy + disc * 0.38}
          text-anchor="middle"
          font-size={disc * 1.15}
          font-weight="750"
          class="pointer-events-none"
          fill={hollow ? 'var(--strike)' : 'var(--sheet)'}>{letter(s.hand)}</text>
      {/each}
      {#each targets as t (t.count)}
        <circle
          cx={x(t.at)}
          cy={y(0)}
          r={disc}
          fill={nearest === t ? 'var(--strike)' : 'var(--sheet)'}
          fill-opacity={nearest === t ? 0.5 : 0.8}
          stroke="var(--strike)"
          stroke-width="2.5"
          stroke-dasharray="4 3"
          class="pointer-events-none" />
        <text
          x={x(t.at)}
          y={y(0) + disc + 14}
          text-anchor="middle"
          class="pointer-events-none fill-ink text-[0.75rem] font-semibold">{t.count}</text>
      {/each}
      {#each seenHits as h, k (k)}
        {@const cx = x(h.at)}
        {@const cy = y(hitSwing(cycle, strikes, h.at))}
        {#each [{ colour: 'var(--sheet)', stroke: 6.5 }, { colour: 'var(--ink)', stroke: 3 }] as line (line.colour)}
          {#if h.extra}<path
              d="M{cx - 5} {cy - 5}l10 10m0 -10l-10 10"
              stroke={line.colour}
              stroke-width={line.stroke} />
          {:else}<circle {cx} {cy} r="6" fill="none" stroke={line.colour} stroke-width={line.stroke} />{/if}
        {/each}
        {#each h.hand ? handsOf(h.hand) : [] as hand (hand)}<line
            x1={cx}
            x2={cx}
            y1={floorOf(hand) - 9}
            y2={floorOf(hand)}
            stroke="var(--ink)"
            stroke-width="2.5" />{/each}
      {/each}
      {#if axis}
        {#each timeSteps(begin, end, Math.max(3, plot / 70)) as t (t)}
          <line x1={x(t)} x2={x(t)} y1={height - foot + 4} y2={height - foot + 9} stroke="var(--soft)" />
          {#if x(t) > 14 && x(t) < plot - 14}<text
              x={x(t)}
              y={height - 4}
              text-anchor="middle"
              class="fill-soft text-[0.75rem]">{t}{t === 0 ? ' s' : ''}</text
            >{/if}
        {/each}
      {/if}
    </svg>
  </div>
</div>
