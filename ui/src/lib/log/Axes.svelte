<!-- A small plot of the log: lines and figures at the left, figures below, and what is drawn between them. -->
<script lang="ts">
  import type { Snippet } from 'svelte'

  type Tick = { at: number; text: string } // px
  type Props = {
    height: number
    left: number // px that the figures at the left take
    across: (width: number) => Tick[]
    up: Tick[]
    children: Snippet<[number]>
  }
  let { height, left, across, up, children }: Props = $props()
  let width = $state(0)
</script>

<div class="h-full" aria-hidden="true" bind:clientWidth={width}>
  <svg {height} class="block w-full text-xs">
    {#each up as t (t.at)}
      <line x1={left} x2={width - 8} y1={t.at} y2={t.at} class="stroke-rope" />
      <text x={left - 6} y={t.at} dy="0.35em" text-anchor="end" class="fill-soft">{t.text}</text>
    {/each}
    {#each across(width) as t (t.at)}
      <text x={t.at} y={height - 8} text-anchor="middle" class="fill-soft">{t.text}</text>
    {/each}
    {@render children(width)}
  </svg>
</div>
