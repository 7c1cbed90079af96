<!-- How the moves join, what an error does to the rest, and what does not fit. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { labelOf, valueOf } from '../../lib/bench/kinds.svelte'
  import { length, ms, speed } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet, c }: { sheet: Sheet; c: Schemas['SwingLine'] } = $props()
  const units = $derived(session.units)
  const late = $derived(c.moves.map((m, i) => ({ ...m, i })).filter((m) => m.late > 0))
  const inCords = (o: Schemas['Adjustment']) => o.what.includes('.')
  const cords = (offers: Schemas['Adjustment'][]) =>
    offers
      .filter((o) => o.what.endsWith('relaxed'))
      .map((o) => `${labelOf(o.what).toLowerCase()} ${valueOf(o.what, o.to, units)}`)
      .join(', ')
  const carried = $derived(
    c.carried
      .slice(0, 4)
      .map((k, i) => {
        const how = i === 0 ? 'meets the bag' : 'still'
        return `the ${c.moves[k.move]?.text} ${how} ${Math.round(k.angle)}° off its line`
      })
      .join(', '),
  )

  /** What an offer does, where a press takes it. */
  function taking(move: number, o: Schemas['Adjustment']) {
    if (o.what === 'return' && sheet.before(move) >= 0)
      return { text: `Meet return ${o.to}`, take: () => void sheet.count(sheet.before(move), o.to) }
    if (o.what === 'fist')
      return { text: `Strike softer: ${speed(o.to, units)}`, take: () => void sheet.set({ fist: o.to }) }
    if (o.what === 'tempo') return { text: `Take ${o.to} a minute`, take: () => void sheet.set({ tempo: o.to }) }
    return null
  }
  const aside = (m: Schemas['FlowMark']) =>
    m.caution ? (m.deliberate ? 'Deliberate.' : 'A caution, not a fault.') : m.hint ? 'A hint, not a fault.' : ''
</script>

<section aria-label="How it flows">
  <h2 class="font-bold">Flow</h2>
  {#if c.flow.length === 0}<p class="text-soft">Every move flows from the one before.</p>{/if}
  <ul>
    {#each c.flow as m (m.move + m.code)}
      <li class="border-b border-rope py-1.5">
        <b>{c.moves[m.move]?.text}, move {m.move + 1}:</b>
        {m.reason}.
        <span class="text-soft">{m.suggest ? `Flows better: ${m.suggest}.` : ''} {aside(m)}</span>
      </li>
    {/each}
    {#each c.halfBeats as h (h.move)}
      <li class="border-b border-rope py-1.5 text-soft">
        <b>{c.moves[h.move]?.text}, move {h.move + 1}:</b> room for one more {h.hand} hand, {ms(h.free)} to spare.
      </li>
    {/each}
  </ul>
  {#if carried}
    <p class="mt-2 text-sm">
      <b>An error carries over.</b> Hit the first one {length(c.off, units)} beside the middle, and {carried}:
      straighten the first before the rest.
    </p>
  {/if}
  {#if late.length > 0}
    <h2 class="mt-4 font-bold">Does not fit</h2>
    <ul>
      {#each late as m (m.i)}
        <li class="border-b border-rope py-1.5">
          <b>{m.text}, move {m.i + 1}, is {ms(m.late)} late.</b>
          <span class="mt-1 flex flex-wrap gap-1">
            {#each m.offers.filter((o) => !inCords(o)) as o (o.what)}
              {@const offer = taking(m.i, o)}
              {#if offer}
                <Button small onclick={offer.take}>{offer.text}</Button>
              {:else}
                <span class="text-sm text-soft">{labelOf(o.what)}: {valueOf(o.what, o.to, units)}</span>
              {/if}
            {/each}
            {#if cords(m.offers)}
              <span class="self-center text-sm text-soft">or softer cords: {cords(m.offers)}</span>
            {/if}
          </span>
        </li>
      {/each}
    </ul>
  {/if}
</section>
