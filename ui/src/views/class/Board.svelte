<!-- The board: who is on which bag in which round, where a bag is re-hung in between, and who is off the bags. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { length } from '../../lib/format'
  import { doings } from '../../lib/class/doings.svelte'
  import { shortNames } from '../../lib/class/names'
  import { session } from '../../lib/session.svelte'
  import Seat from './Seat.svelte'

  type Props = {
    theClass: Schemas['HeldClass']
    over: boolean
    busy: boolean
    onseat: (round: number, person: string, bag: string) => void
    onchoose: (person: string, assignmentId: string) => void
  }
  let { theClass, over, busy, onseat, onchoose }: Props = $props()
  const plan = $derived(theClass.plan)
  const short = $derived(shortNames(plan.people.map((p) => p.name)))
  const name = (id: string) => short.get(plan.people.find((p) => p.id === id)?.name ?? '') ?? ''
  const on = (turn: Schemas['Turn'], bag: string) => turn.seats.find((s) => s.bag === bag)
  const hang = (round: number, bag: string) => plan.rehangs.find((r) => r.round === round && r.bag === bag)
  const fixed = (round: number) => over || (theClass.state !== 'ready' && round < theClass.coming)
  const used = $derived(plan.bags.filter((b) => plan.turns.some((t) => on(t, b.id))))
  const off = (turn: Schemas['Turn']) => turn.seats.filter((s) => !s.bag && name(s.person))
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex: what scrolls is scrolled by the keyboard, too -->
<div class="relative mt-6 overflow-x-auto" role="region" aria-label="Who is where" tabindex="0">
  <table class="w-full border-collapse text-left">
    <caption class="sr-only">Who is on which bag in which round</caption>
    <thead>
      <tr class="border-b-2 border-ink align-bottom">
        <th class="label sticky left-0 bg-ground py-1 pr-3" scope="col">Bag</th>
        {#each theClass.rounds as t (t.round)}
          <th class="figure px-1 py-1 text-2xl {fixed(t.round) ? 'text-soft' : ''}" scope="col"
            ><span class="sr-only">{t.name}</span><span aria-hidden="true" title={t.name}>{t.short}</span></th>
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each used as b (b.id)}
        <tr class="border-b border-rope">
          <th
            class="py-1 pr-3 align-bottom font-bold whitespace-nowrap {b.broken ? 'text-soft line-through' : ''}"
            scope="row">{b.name}</th>
          {#each plan.turns as t (t.round)}
            {@const seat = on(t, b.id)}
            {@const anew = hang(t.round, b.id)}
            <td class="px-1 py-1 align-top">
              {#if anew}
                <p
                  class="text-xs leading-tight whitespace-nowrap"
                  title="{anew.point} at {length(anew.to, session.units)}, for {anew.for}">
                  <span aria-hidden="true">⤒ </span><span class="sr-only">set to </span>{length(anew.to, session.units)}
                </p>
              {:else}<p class="text-xs leading-tight" aria-hidden="true">&nbsp;</p>{/if}
              {#if seat}
                <Seat
                  {theClass}
                  {seat}
                  round={t.round}
                  text={name(seat.person)}
                  fixed={fixed(t.round)}
                  {busy}
                  {onseat}
                  {onchoose} />
              {:else}<span class="text-soft" aria-label="nobody">–</span>{/if}
            </td>
          {/each}
        </tr>
      {/each}
      <tr>
        <th class="sticky left-0 bg-ground py-2 pr-3 align-top font-bold" scope="row">Off the bags</th>
        {#each plan.turns as t (t.round)}
          <td class="px-1 py-2 align-top">
            <ul class="text-sm leading-snug">
              {#each off(t) as s (s.person)}
                <li>
                  <Seat
                    {theClass}
                    seat={s}
                    round={t.round}
                    text={name(s.person)}
                    what={doings.names.get(s.activity) ?? ''}
                    fixed={fixed(t.round)}
                    {busy}
                    {onseat}
                    {onchoose} />
                </li>
              {/each}
            </ul>
          </td>
        {/each}
      </tr>
    </tbody>
  </table>
</div>
