<!-- The calibrations of a bag, the newest of which can be undone. -->
<script lang="ts">
  import { methods } from '../labels.gen'
  import type { Schemas } from '../api/client'
  import { clockTime, ms, shortDay, type Units } from '../format'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import { valueOf } from './kinds.svelte'

  type Kept = Schemas['Calibration']
  type Props = { history: Kept[]; undoable: string | undefined; units: Units; onundo: (id: string) => void }
  let { history, undoable, units, onundo }: Props = $props()
  const when = (c: Kept) => `${shortDay(c.at, session.zone)}, ${clockTime(c.at, session.zone)}`
  const value = (c: Kept, v: number) => valueOf(c.parameter, v, units)
  const spread = (c: Kept) => (c.spread === null ? '' : ` ± ${value(c, c.spread)}`)
  const left = (c: Kept) => (c.residual === null ? '' : `, off by ${ms(c.residual)}`)
</script>

{#if history.length > 0}
  <h3 class="label mt-5">Calibrations</h3>
  <ul class="text-sm">
    {#each history as c (c.id)}
      <li
        class="flex flex-wrap items-center justify-between gap-2 border-b border-rope py-1.5 {c.undone
          ? 'text-soft line-through'
          : ''}">
        <span>
          {when(c)}: <b>{value(c, c.value)}{spread(c)}</b>, {methods[c.method]}{left(c)}; was {value(c, c.was)}
        </span>
        {#if c.id === undoable}
          <Button small onclick={() => onundo(c.id)}>Undo</Button>
        {/if}
      </li>
    {/each}
  </ul>
{/if}
