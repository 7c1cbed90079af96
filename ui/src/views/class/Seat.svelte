<!-- Somebody's place in a round: pressed, it says what they do there, and changes it. -->
<script lang="ts">
  import { Popover } from 'bits-ui'
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import Button from '../../lib/ui/Button.svelte'

  type Props = {
    theClass: Schemas['HeldClass']
    seat: Schemas['Seat']
    round: number
    text: string
    what?: string
    fixed: boolean
    busy: boolean
    onseat: (round: number, person: string, bag: string) => void
    onchoose: (person: string, assignmentId: string) => void
  }
  let { theClass, seat, round, text, what = '', fixed, busy, onseat, onchoose }: Props = $props()
  let open = $state(false)
  const plan = $derived(theClass.plan)
  const given = $derived(plan.given.find((g) => g.person === seat.person && g.bag === seat.bag))
  const bag = $derived(plan.bags.find((b) => b.id === seat.bag))
  const who = $derived(plan.people.find((p) => p.id === seat.person))
  const held = createQuery(() => ({
    queryKey: ['drills', false],
    enabled: open && !!seat.bag,
    queryFn: () => ask(api.GET('/api/drills', { params: { query: { archived: false } } })),
  }))
  const drills = $derived(
    (held.data ?? [])
      .flatMap((d) => (d.holders ?? []).map((h) => ({ ...h, name: d.name })))
      .filter((h) => h.traineeId === seat.person && h.rigId === seat.bag && h.assignmentId !== given?.assignmentId),
  )
  const elsewhere = $derived(plan.bags.filter((b) => !b.broken && b.id !== seat.bag))
  const there = (id: string) => {
    const s = plan.turns.find((t) => t.round === round)?.seats.find((x) => x.bag === id)
    const name = plan.people.find((p) => p.id === s?.person)?.name
    return name ? `, in place of ${name.split(' ')[0]}` : ''
  }
  function move(to: string) {
    open = false
    onseat(round, seat.person, to)
  }
</script>

<Popover.Root bind:open>
  <Popover.Trigger
    class="min-h-6 text-left leading-tight hover:underline {seat.bag ? 'font-semibold' : ''} {fixed ? 'text-soft' : ''}"
    aria-label="{text}, {bag?.name ?? what}">{text}</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      class="z-20 max-h-[60vh] w-80 overflow-y-auto rounded-[3px] border-2 border-ink bg-sheet p-4 shadow-[0_6px_0_var(--shade)]"
      side="bottom"
      align="start"
      sideOffset={6}
      collisionPadding={12}
      aria-label="{who?.name ?? text} in this round">
      <p class="font-bold">{who?.name ?? text}</p>
      {#if bag}
        <p>{given?.name ?? ''} <span class="text-soft">on the {bag.name}</span></p>
        {#if given?.why}<p class="text-sm text-soft">{given.why}</p>{/if}
        {#each given?.spared ?? [] as s (s)}<p class="text-sm">{s}</p>{/each}
      {:else}<p>{what}</p>{/if}
      {#if !fixed}
        <p class="label mt-3">Put them</p>
        <ul class="-mx-2">
          {#each elsewhere as b (b.id)}
            <li>
              <button class="min-h-10 w-full px-2 text-left hover:bg-shade" disabled={busy} onclick={() => move(b.id)}
                >on the {b.name}<span class="text-soft">{there(b.id)}</span></button>
            </li>
          {/each}
          {#if seat.bag}<li>
              <button class="min-h-10 w-full px-2 text-left hover:bg-shade" disabled={busy} onclick={() => move('')}
                >off the bags</button>
            </li>{/if}
        </ul>
        {#if drills.length > 0}
          <p class="label mt-3">Another of their drills here</p>
          <ul class="-mx-2">
            {#each drills as d (d.assignmentId)}
              <li>
                <button
                  class="min-h-10 w-full px-2 text-left hover:bg-shade"
                  disabled={busy}
                  onclick={() => {
                    open = false
                    onchoose(seat.person, d.assignmentId)
                  }}>{d.name}</button>
              </li>
            {/each}
          </ul>
        {/if}
      {/if}
      <p class="mt-3"><Button small href="#/people/{seat.person}">To {who?.name.split(' ')[0]}</Button></p>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
