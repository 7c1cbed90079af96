<!-- What stands on the dial's curve: boards and turns, passes, the strikes with the punch or the hand, defences and steps with their names
     outside the curve. A rear hand's disc has a ring. -->
<script lang="ts">
  import type { Face } from './face.svelte'
  import { faceOf, handLetter, handWord, onDisc } from '../trace/hands'
  import { path, radius, x, y, type Spot } from './turn'

  type Props = { face: Face; half: number; large: number } // half the picture's width; by how much letters are larger
  let { face, half, large }: Props = $props()
  // Where the stance is not known the hand stands beside the disc, in full.
  const text = (d: { text?: string | undefined; hand: string }) =>
    faceOf(d, face.stance) || handWord(d.hand, face.stance)
  const bent = (from: number, to: number, r: number) =>
    path(Array.from({ length: 13 }, (_, k) => ({ angle: from + ((to - from) * k) / 12, r })))
  const anchor = (s: Spot) => (Math.sin(s.angle) > 0.35 ? 'start' : Math.sin(s.angle) < -0.35 ? 'end' : 'middle')
  const beyond = (s: Spot, crest: number, by: number) => ({ angle: s.angle, r: Math.max(s.r, crest) + by })
  /** Where a name that is so wide begins, ends or has its middle, so that all of it stands in the picture. */
  function within(s: Spot, wide: number) {
    const [before, behind] = { start: [0, wide], middle: [wide / 2, wide / 2], end: [wide, 0] }[anchor(s)] as [
      number,
      number,
    ]
    return Math.max(before - half, Math.min(half - behind, x(s)))
  }
  const across = (s: Spot, by: number) =>
    path([
      { ...s, r: s.r - by },
      { ...s, r: s.r + by },
    ])
</script>

{#snippet name(spot: Spot, words: string, size: number, colour: string)}
  <text
    x={within(spot, 0.56 * large * size * words.length + 2)}
    y={y(spot) + 0.36 * large * size}
    text-anchor={anchor(spot)}
    class="{colour} font-semibold [paint-order:stroke]"
    stroke="var(--ground)"
    stroke-width="2"
    font-size={large * size}>{words}</text>
{/snippet}

{#each face.boards as m (m.at)}
  <path
    d={across({ angle: face.way.angle(m.at), r: radius(m.swing * face.side) }, 3.4)}
    stroke="var(--brass)"
    stroke-width={face.boarded ? 2 : 1.4} />
{/each}
{#each face.passes as p (p.at)}
  {@const a = face.turn.angle(p.at)}
  {@const r = radius(0)}
  <path
    d={path([
      { angle: a - 0.05, r: r - 5 },
      { angle: a + 0.05, r: r + 5 },
    ])}
    stroke="var(--blue)"
    stroke-width="1.6" />
{/each}
{#each face.marks as m (m.at)}
  {@const at = { cx: x(m.spot), cy: y(m.spot) }}
  <path
    d={bent(m.from, m.to, m.spot.r)}
    fill="none"
    stroke="var(--blue)"
    stroke-width="1.2"
    stroke-dasharray={m.kind === 'step' ? '2 2' : undefined} />
  {#if m.kind === 'defence'}
    <path d="M{at.cx - 5} {at.cy}l5 -6l5 6l-5 6Z" fill="var(--ground)" stroke="var(--blue)" stroke-width="1.5" />
  {/if}
  {@render name(beyond(m.spot, m.crest, Math.max(9, face.disc + 5 * large)), m.text, 7.5, 'fill-blue')}
{/each}
{#each face.discs as d (d.i)}
  {@const [cx, cy] = [x(d.spot), y(d.spot)]}
  {@const r = face.disc}
  {#if d.hand === 'rear'}<circle {cx} {cy} r={r + 1.9} fill="none" stroke="var(--strike)" stroke-width="1" />{/if}
  {#if d.pin}
    <rect x={cx - r - 2} y={cy - r - 2} width={2 * r + 4} height={2 * r + 4} fill="none" stroke="var(--strike)" />
  {/if}
  <circle class="strike" {cx} {cy} {r} fill="var(--strike)" />
  {#if onDisc(text(d))}
    <text
      x={cx}
      y={cy + 0.37 * r}
      text-anchor="middle"
      font-weight="750"
      font-size={text(d).length > 1 ? 0.95 * r : 1.2 * r}
      fill="var(--ground)">{text(d)}</text>
  {:else}
    {@render name(beyond(d.spot, d.crest, r + 8), text(d), 7, 'fill-ink')}
  {/if}
  {#if face.film && d.hand && d.hand !== 'both'}
    {@const inner = { angle: d.spot.angle, r: d.spot.r - r - 6 }}
    <text
      x={x(inner)}
      y={y(inner) + 2}
      text-anchor="middle"
      class="fill-soft font-semibold [paint-order:stroke]"
      stroke="var(--ground)"
      stroke-width="1.5"
      font-size={5.6 * large}>{handLetter(d.hand, face.stance) || d.hand}</text>
  {/if}
{/each}
