<!-- Who is on which bag: up to four bags with their dials, the others and whoever is off the bags in words. -->
<script lang="ts">
  import Dial from '../../lib/dial/Dial.svelte'
  import { doings } from '../../lib/class/doings.svelte'
  import { most, type ClassFloor } from '../../lib/class/floor.svelte'
  import { seatsOf } from '../../lib/class/seats'
  import { timelineMoves, timelineStrikes } from '../../lib/trace/geometry'

  let { floor }: { floor: ClassFloor } = $props()
  const face = $derived(floor.face)
  const seats = $derived(
    floor.class && face ? seatsOf(floor.class.plan, face.round, doings.names) : { on: [], off: [] },
  )
  const list = $derived((face ? floor.stations[face.id] : undefined) ?? [])
  /** The drill's own clock, so many seconds ahead of the floor's. */
  const clockOf = (ahead: number) => () => floor.now() + ahead
  const dials = $derived(
    list
      .filter((s) => !s.barred)
      .slice(0, most)
      .map((s) => ({
        ...s,
        strikes: timelineStrikes(s.timeline.events),
        moves: timelineMoves(s.timeline.events),
        clock: clockOf((s.timeline.start - (face?.from ?? 0)) / 1e6),
        who: seats.on.find((x) => x.bagId === s.bag),
      })),
  )
  const shown = $derived(new Set(dials.map((d) => d.bag)))
  const others = $derived(
    seats.on
      .filter((x) => !shown.has(x.bagId))
      .map((x) => ({ ...x, barred: list.find((s) => s.bag === x.bagId)?.barred ?? '' })),
  )
  const alone = $derived(seats.on.length === 1)
  const columns = $derived(['', 'sm:grid-cols-1', 'sm:grid-cols-2', 'sm:grid-cols-3', 'sm:grid-cols-4'][dials.length])
</script>

{#if face?.onBag}
  <div class="flex h-full flex-col gap-2 pb-2">
    <ul class="grid min-h-0 flex-1 gap-x-4 gap-y-2 {alone ? '' : 'max-sm:content-start'} {columns ?? ''}">
      {#each dials as d (`${d.bag} ${face.id}`)}
        <li class="flex min-h-0 min-w-0 flex-col low:flex-row low:items-stretch low:gap-2">
          <div class="min-w-0 low:order-2 low:w-24 low:shrink-0">
            <div class="flex items-baseline justify-between gap-3 low:flex-col low:gap-1">
              <p class="truncate low:leading-tight low:whitespace-normal">
                <span class="figure text-3xl sm:text-5xl low:text-2xl wall:text-8xl">{d.who?.person ?? ''}</span>
                <span class="text-lg text-soft low:text-sm wall:text-3xl">{d.who?.bag ?? ''}</span>
              </p>
              {#if !alone}
                <button
                  class="button min-w-16! wall:min-h-16! wall:text-2xl!"
                  aria-pressed={floor.heard === d.bag}
                  onclick={() => floor.listen(d.bag)}
                  aria-label="Hear the {d.who?.bag}">{floor.heard === d.bag ? 'Heard' : 'Hear'}</button>
              {/if}
            </div>
            <p class="truncate text-soft sm:text-xl low:text-xs low:leading-tight low:whitespace-normal wall:text-4xl">
              {d.name === face.title ? '' : d.name}{d.asFast ? '' : ', as fast as it goes'}
            </p>
          </div>
          <div class="min-h-0 flex-1 {alone ? '' : 'max-sm:hidden low:block!'}">
            <Dial
              cycle={d.cycle}
              planned={d.strikes}
              moves={d.moves}
              tempo={d.tempo}
              stance={d.stance}
              clock={d.clock}
              whose="{d.who?.person ?? ''} on the {d.who?.bag ?? ''}, {d.name}." />
          </div>
        </li>
      {/each}
    </ul>
    <div class="flex flex-wrap gap-x-8 gap-y-1 text-lg sm:text-2xl low:text-sm wall:text-4xl">
      {#each others as x (x.bagId)}
        <p>
          <b>{x.person}</b>
          {#if x.barred}<span>{x.bag}: {x.barred}.</span>{:else}<span class="text-soft">{x.bag}, {x.drill}</span>{/if}
        </p>
      {/each}
      {#each seats.off as o (o.what)}
        <p><b>{o.people.join(', ')}</b> <span class="text-soft">{o.what.toLowerCase()}</span></p>
      {/each}
    </div>
  </div>
{:else if face}
  <p class="text-2xl text-soft sm:text-4xl wall:text-6xl">Everybody: {face.title.toLowerCase()}.</p>
{/if}
