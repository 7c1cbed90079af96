<!-- What is pressed during a round: a pad for each hand, and what the coach marks. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { count, upper } from '../../lib/format'
  import { markNames } from '../../lib/labels.gen'
  import { handWord } from '../../lib/trace/hands'
  import type { Floor } from './floor.svelte'

  type Kind = Schemas['MarkIn']['kind']
  type Props = { floor: Floor; marks: Kind[]; sees: Schemas['ToSeeOut'][]; keyed: boolean; recorded: boolean }
  let { floor, marks, sees, keyed, recorded }: Props = $props()
  const round = $derived(floor.round)
  const ending = $derived(round.phase === 'ending')
  const pads = $derived([
    { hand: floor.left, key: 'F', place: 'order-2 md:order-1 low:col-start-1' },
    { hand: floor.right, key: 'J', place: 'order-3 low:col-start-3' },
  ])
  /** Marks in one row, or in two that are alike. */
  const columns = $derived.by(() => {
    const all = marks.length + sees.length
    return all > 5 ? Math.ceil(all / 2) : all
  })
  const hits = $derived(recorded ? count(round.hits.length, 'hit') : 'nothing recorded')
</script>

<!-- On a wall that nobody can touch there are no pads, and what the coach marks is one row. -->
<footer
  class="grid grid-cols-2 gap-2 px-4 pb-4 sm:px-6 md:grid-cols-[1fr_minmax(0,22rem)_1fr] wall:grid-cols-[minmax(0,14rem)_1fr_minmax(0,14rem)] far:grid-cols-1! low:contents">
  {#each keyed ? pads : [] as pad (pad.key)}
    <button
      class="relative min-h-32 low:row-start-2 rounded-[3px] border-2 border-edge bg-sheet px-4 text-left {pad.place} disabled:opacity-50 wall:min-h-0 wall:text-center far:hidden"
      disabled={ending}
      onpointerdown={(e) => floor.strike(pad.hand, e.timeStamp)}>
      <!-- a small disc alone answers a tap: nothing larger may flash -->
      <span
        class="absolute top-4 right-4 size-6 rounded-full border-2 border-strike {floor.pressed === pad.hand
          ? 'bg-strike'
          : ''}"></span>
      <span class="figure block text-4xl capitalize">{handWord(pad.hand, floor.stance)}</span>{' '}
      <span class="text-sm">{pad.hand} hand, key {pad.key}</span>
    </button>
  {/each}
  <div
    style:--columns={columns}
    class="order-1 col-span-2 grid grid-cols-[repeat(var(--columns),minmax(0,1fr))] max-[22.5rem]:grid-cols-3 gap-1 md:order-2 {keyed
      ? 'md:col-span-1 far:col-span-1'
      : 'md:col-span-3'} low:col-span-3 low:row-start-3 low:grid-cols-[repeat(auto-fit,minmax(4rem,1fr))] wall:auto-cols-fr wall:grid-flow-col wall:grid-cols-none"
    role="group"
    aria-label="Marks">
    {#each marks as kind, i (kind)}
      <button
        class="min-h-16 rounded-[3px] border-2 border-edge px-0.5 text-[0.8125rem] leading-tight font-semibold hover:bg-shade wall:min-h-20 wall:text-xl"
        disabled={ending}
        onclick={() => round.mark(kind)}>
        <span class="block text-soft">{i + 1}</span>{markNames[kind]}
      </button>
    {/each}
    {#each sees as s (s.kind)}
      <button
        class="min-h-16 rounded-[3px] border-2 border-dashed border-edge px-0.5 text-[0.8125rem] leading-tight font-semibold max-sm:text-xs max-sm:tracking-tight hover:bg-shade wall:min-h-20 wall:text-xl"
        disabled={ending}
        aria-label={upper(s.name)}
        onclick={() => round.mark(s.kind)}>{s.press}</button>
    {/each}
    <p
      class="col-span-full low:col-span-1 low:justify-center wall:col-span-1 wall:flex-col wall:justify-center flex items-center justify-between text-sm text-soft wall:text-xl">
      <span class="low:sr-only">{hits}, {count(round.marks, 'mark')}</span>
      <button class="-my-1 min-h-16 px-4 underline low:px-1 low:text-xs" onclick={() => round.mute()}>
        {round.muted ? 'Sound on' : 'Sound off'} (M)
      </button>
    </p>
  </div>
</footer>
