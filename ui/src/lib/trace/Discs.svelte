<!-- The strikes: a disc on the swing for each, with the hand's way out and back below. A disc can be dragged to another return. -->
<script lang="ts">
  import { handPath, met } from './geometry'
  import { faceOf, handLetter, onDisc } from './hands'
  import type { View } from './view.svelte'

  type Props = {
    v: View
    chosen: number | undefined
    choices: { count: number; at: number }[][]
    onreturn: ((i: number, count: number) => void) | undefined
    onpick: ((i: number) => void) | undefined
  }
  let { v, chosen, choices, onreturn, onpick }: Props = $props()
  const discs = $derived(
    v.seen.map((s) => ({
      ...s,
      cx: v.x(v.at(s)),
      cy: v.y(v.film ? v.inFilm(s.at) : met(v.cycle) * (s.side ?? 1)),
      hollow: !!s.verdict && s.verdict !== 'clean',
      text: faceOf(s, v.stance),
      below: s.text || !v.stance ? handLetter(s.hand, v.stance) || s.hand : '',
    })),
  )

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
    const drag = (m: Event) => held && (held = { i, at: at + ((m as PointerEvent).clientX - from) / v.scale })
    const drop = (up: Event) => {
      own.removeEventListener('pointermove', drag)
      const to = nearest
      held = null
      if (up.type !== 'pointerup') return
      if (to && Math.abs(to.at - at) > 1e-6) onreturn!(i, to.count)
      else onpick?.(i)
    }
    own.addEventListener('pointermove', drag)
    own.addEventListener('pointerup', drop, { once: true })
    own.addEventListener('pointercancel', drop, { once: true })
  }

  function keys(e: KeyboardEvent, i: number, at: number) {
    if (!movable(i)) return
    const all = choices[i]!
    const to =
      e.key === 'ArrowRight'
        ? all.find((c) => c.at > at + 1e-6)
        : e.key === 'ArrowLeft'
          ? all.findLast((c) => c.at < at - 1e-6)
          : undefined
    if (to) onreturn!(i, to.count)
    else if (e.key === 'Enter' || e.key === ' ') onpick?.(i)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
</script>

{#each discs as s (s.i)}
  <path d={handPath(v.cycle, v.at(s), v.x, v.floor, v.roof)} fill="none" stroke="var(--soft)" stroke-width="2" />
  <path d="M{s.cx} {s.cy}V{v.roof}" stroke="var(--strike)" stroke-dasharray="1 4" />
  <text x={s.cx} y={v.floor + 13} text-anchor="middle" class="fill-ink font-semibold" font-size={v.label}
    >{s.below}</text>
  {#if s.hand === 'rear'}
    <circle cx={s.cx} cy={s.cy} r={v.disc + 3.5} fill="none" stroke="var(--strike)" stroke-width="1.5" />
  {/if}
  {#if s.pin}
    {@const r = v.disc + 5}
    <rect x={s.cx - r} y={s.cy - r} width={2 * r} height={2 * r} fill="none" stroke="var(--strike)" stroke-width="2" />
  {/if}
  {#if chosen === s.i}
    <circle cx={s.cx} cy={s.cy} r={v.disc + 7} fill="none" stroke="var(--ink)" stroke-width="2" />
  {/if}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -- it is a button where it has a place in the order -->
  <circle
    class="strike {movable(s.i) ? 'cursor-grab touch-none' : ''}"
    role={movable(s.i) && onpick ? 'button' : 'presentation'}
    tabindex={movable(s.i) && onpick ? 0 : undefined}
    aria-label={movable(s.i) && onpick ? `${s.text || s.hand}, move ${s.i + 1}: choose its return` : undefined}
    onkeydown={(e) => keys(e, s.i, s.at)}
    onpointerdown={(e) => grab(e, s.i, s.at)}
    cx={s.cx}
    cy={s.cy}
    r={v.disc}
    fill={s.hollow ? 'var(--sheet)' : 'var(--strike)'}
    stroke="var(--strike)"
    stroke-width="2.5"
    stroke-dasharray={s.verdict === 'missed' ? '3 3' : undefined} />
  {#if onDisc(s.text)}
    <text
      x={s.cx}
      y={s.cy + v.disc * 0.38}
      text-anchor="middle"
      font-size={v.disc * (s.text.length > 1 ? 0.95 : 1.15)}
      font-weight="750"
      class="pointer-events-none"
      fill={s.hollow ? 'var(--strike)' : 'var(--sheet)'}>{s.text}</text>
  {:else}
    <text x={s.cx} y={s.cy - v.disc - 8} text-anchor="middle" class="fill-strike font-semibold" font-size={v.label}
      >{s.text}</text>
  {/if}
{/each}
{#each targets as t (t.count)}
  <g class="pointer-events-none">
    <circle
      cx={v.x(t.at)}
      cy={v.y(0)}
      r={v.disc}
      fill={nearest === t ? 'var(--strike)' : 'var(--sheet)'}
      fill-opacity={nearest === t ? 0.5 : 0.8}
      stroke="var(--strike)"
      stroke-width="2.5"
      stroke-dasharray="4 3" />
    <text x={v.x(t.at)} y={v.y(0) + v.disc + 14} text-anchor="middle" class="fill-ink text-[0.75rem] font-semibold"
      >{t.count}</text>
  </g>
{/each}
