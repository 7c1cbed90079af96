<!-- Somebody's weeks: what was planned, who came, and what is next. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { dayNames, shortDay } from '../../lib/format'

  type Planned = Schemas['PlannedDay']
  let { days, onplan }: { days: Planned[]; onplan: () => void } = $props()
  const weeks = $derived(
    Object.entries(Object.groupBy(days, (d) => d.week)).map(([week, list]) => ({ week, days: list ?? [] })),
  )
  const coming = $derived(days.find((d) => d.coming))
  const name = (d: Planned) => `${dayNames[new Date(`${d.day}T12:00`).getDay()]} ${Number(d.day.slice(8))}`
</script>

<section class="seam mt-8 pt-3" aria-labelledby="weeks">
  <h2 id="weeks" class="text-xl font-bold">Weeks</h2>
  {#if weeks.length === 0}
    <p class="mt-1 text-soft">
      No plan: they train when they come. <button class="min-h-6 underline" onclick={onplan}>Plan the weeks</button>: a
      round more at a time, every fourth week light.
    </p>
  {:else}
    <ol class="mt-2 flex gap-2 overflow-x-auto pb-2">
      {#each weeks as w (w.week)}
        <li class="min-w-24 flex-1 border-t-4 pt-1 {w.days.some((d) => d.done > 0) ? 'border-ink' : 'border-edge'}">
          <p class="label">Week {w.week}{w.days[0]?.light ? ', light' : ''}</p>
          {#each w.days as d (d.day)}
            <p class="text-sm {d.missed ? 'text-soft line-through' : ''}" title="{d.why}: {d.emphasis.join(', ')}">
              <b>{name(d)}</b>
              {d.done > 0 ? `${d.done} of ${d.rounds}` : `${d.rounds} rounds`}
            </p>
          {/each}
        </li>
      {/each}
    </ol>
    {#if coming}
      <p class="mt-1 text-sm text-soft">
        Next, {shortDay(`${coming.day}T12:00:00Z`, 'UTC')}: {coming.emphasis.join('; ')}.
      </p>
    {/if}
  {/if}
</section>
