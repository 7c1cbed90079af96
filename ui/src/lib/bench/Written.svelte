<!-- The figures on the dimension lines of a rig: each is pressed, stepped, dragged or typed over where it stands. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'
  import Part from '../say/Part.svelte'
  import Field from '../ui/Field.svelte'
  import { moved, standing } from './handles'
  import { shownAs } from './kinds.svelte'
  import type { Box } from './labels'

  type Props = {
    handles: Schemas['Handle'][]
    at: Box[]
    units: Units
    read: ((field: string) => number) | undefined
    onset: (changes: { field: string; to: number }[]) => void
  }
  let { handles, at, units, read, onset }: Props = $props()
  const step = $derived(units === 'imperial' ? 0.0127 : 0.01)
</script>

{#each handles as h, i (h.field)}
  {@const box = at[i]!}
  <span
    class="on-line absolute flex items-center justify-center text-[0.8rem] whitespace-nowrap"
    style:left="{box.x}px"
    style:top="{box.y}px"
    style:width="{box.w}px"
    style:height="{box.h}px">
    <Part
      text={length(h.value, units)}
      label={h.label}
      figure
      onstep={(by) => onset(moved(h, standing(h, read), (Math.round(h.value / step) + by) * step))}>
      <Field
        label={h.label}
        value={h.value}
        min={h.min}
        max={h.max}
        {step}
        {...shownAs('height', units)}
        onchange={(to) => onset(moved(h, standing(h, read), to))} />
    </Part>
  </span>
{/each}

<style>
  /* Beside its line a figure stands close over its rope, with room to be hit above it. */
  .on-line :global(.part) {
    display: inline-flex;
    align-items: flex-end;
    min-height: 1.5rem;
    line-height: 1.1;
    /* What lies under a figure shows round its letters: nothing is cut out of the picture. */
    text-shadow:
      0 0 2px var(--sheet),
      0 0 3px var(--sheet),
      0 0 4px var(--sheet),
      0 0 5px var(--sheet);
  }
  @media (max-width: 40rem) {
    .on-line :global(.part) {
      min-width: 2.75rem;
      min-height: 2.75rem;
    }
  }
</style>
