<!-- Defences and steps along the swing, each with its name where the swing does not cross it. -->
<script lang="ts">
  import type { View } from './view.svelte'

  let { v }: { v: View } = $props()
  const marks = $derived(
    v.moves.map((m) => {
      const against = v.passes.length > 0 && m.kind === 'defence' // against a pass it counts when it begins
      const at = against ? m.at : (m.at + m.until) / 2
      return { ...m, cx: v.x(at), cy: v.y(v.inFilm(at)) }
    }),
  )
</script>

{#each marks as m (m.at + m.text)}
  <line
    x1={v.x(m.at)}
    x2={v.x(m.until)}
    y1={m.cy}
    y2={m.cy}
    stroke="var(--blue)"
    stroke-width="2"
    stroke-dasharray={m.kind === 'step' ? '3 3' : undefined} />
  {#if m.kind === 'defence'}
    <path d="M{m.cx - 10} {m.cy}l10 -12l10 12l-10 12Z" fill="var(--sheet)" stroke="var(--blue)" stroke-width="2.5" />
  {/if}
{/each}
<!-- The names stand over the curve, on a ground of their own. -->
{#each marks as m (m.at + m.text)}
  <text
    x={m.cx}
    y={m.cy < 34 ? m.cy + 28 : m.cy - 17}
    text-anchor="middle"
    class="name fill-blue font-semibold"
    font-size={v.label}>{m.text}</text>
{/each}

<style>
  .name {
    paint-order: stroke;
    stroke: var(--sheet);
    stroke-width: 5px;
    stroke-linejoin: round;
  }
</style>
