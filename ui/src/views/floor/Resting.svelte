<!-- In a rest: who goes where, and what is re-hung before the bell. -->
<script lang="ts">
  import Dial from '../../lib/dial/Dial.svelte'
  import { doings } from '../../lib/class/doings.svelte'
  import { most, type ClassFloor, type Face } from '../../lib/class/floor.svelte'
  import { timelineMoves, timelineStrikes } from '../../lib/trace/geometry'
  import { seatsOf } from '../../lib/class/seats'

  let { floor, first }: { floor: ClassFloor; first?: Face | undefined } = $props() // first: in place of what comes next
  const block = $derived(first ?? floor.block)
  const seats = $derived(
    floor.class && block ? seatsOf(floor.class.plan, block.round, doings.names) : { on: [], off: [] },
  )
  const coming = $derived((block ? floor.stations[block.id] : undefined) ?? [])
  const dials = $derived(
    new Map(
      coming
        .filter((s) => !s.barred)
        .slice(0, most)
        .map((s) => [
          s.bag,
          { ...s, strikes: timelineStrikes(s.timeline.events), moves: timelineMoves(s.timeline.events) },
        ]),
    ),
  )
  const hang = $derived(floor.class?.cards.filter((c) => c.round === block?.round) ?? [])
</script>

{#if block && seats.on.length > 0}
  <div class="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,1fr)_24rem] wall:grid-cols-[minmax(0,1fr)_40rem]">
    <ul class="grid content-start gap-x-8 gap-y-3 grid-cols-2 md:grid-cols-3 wall:gap-y-8">
      {#each seats.on as x (x.bagId)}
        {@const d = dials.get(x.bagId)}
        <li class="min-w-0">
          <p class="text-lg text-soft sm:text-2xl wall:text-4xl">{x.bag}</p>
          <p class="figure truncate text-4xl sm:text-6xl wall:text-[9rem]">{x.person}</p>
          <p class="truncate text-soft sm:text-xl wall:text-3xl">{block.role === 'own' ? x.drill : block.title}</p>
          {#if d}
            <div class="h-[30vh] max-sm:hidden">
              <Dial
                cycle={d.cycle}
                planned={d.strikes}
                moves={d.moves}
                tempo={d.tempo}
                stance={d.stance}
                whose="{x.person} on the {x.bag}, {d.name}." />
            </div>
          {/if}
        </li>
      {/each}
    </ul>
    <div class="grid content-start gap-4">
      {#if hang.length > 0}
        <section class="border-l-4 border-ink pl-4" aria-label="Re-hang now">
          <h2 class="label wall:text-2xl">Re-hang now</h2>
          {#each hang as c (c.bag)}
            <p class="text-xl sm:text-2xl wall:text-4xl">
              <b>{c.bag}:</b>
              {c.text.charAt(0).toLowerCase() + c.text.slice(1)}
            </p>
          {/each}
        </section>
      {/if}
      {#each seats.off as o (o.what)}
        <p class="text-xl wall:text-3xl">
          <b>{o.people.join(', ')}</b> <span class="text-soft">{o.what.toLowerCase()}</span>
        </p>
      {/each}
    </div>
  </div>
{:else if block}
  <p class="text-2xl sm:text-4xl wall:text-6xl">
    <span class="text-soft">Next:</span> <b>{block.title}</b>{block.emphasis && block.emphasis !== block.title
      ? `, ${block.emphasis.toLowerCase()}`
      : ''}
  </p>
{/if}
