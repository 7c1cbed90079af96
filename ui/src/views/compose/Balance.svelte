<!-- What the line comes to by hand, height and kind, and which return each strike meets. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { ms } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet, c, kind }: { sheet: Sheet; c: Schemas['SwingLine']; kind: string } = $props()
  const rows = $derived([
    ['Moves, strikes', c.balance.moves, c.balance.strikes],
    ['Lead, rear hand', c.balance.leadHand, c.balance.rearHand],
    ['Head, body', c.balance.head, c.balance.body],
    ['Straight, curved', c.balance.straights, c.balance.curved],
    ['Slips lead, rear', c.balance.slipsLead, c.balance.slipsRear],
    ['Defences, steps', c.balance.defences, c.balance.steps],
  ] as const)
  const met = $derived(c.moves.map((m, i) => ({ ...m, i })).filter((m) => m.kind === 'strike' && m.choices.length > 0))
  const meets = (n: number) => (n === 1 ? 'the next' : kind === 'speed' ? `after ${n} rebounds` : `return ${n}`)
  const less = (m: Schemas['ComposedMove']) => (m.less ? `, × ${m.share.toFixed(2)} ${m.less}` : '')
  const earlier = (m: Schemas['ComposedMove']) => m.choices.findLast((o) => o.count < m.return)?.count ?? 0
  const later = (m: Schemas['ComposedMove']) => m.choices.find((o) => o.count > m.return)?.count ?? 0
</script>

{#snippet step(sign: string, name: string, move: number, to: number)}
  <Button
    quiet
    small
    aria-label="Move {move + 1} one return {name}"
    disabled={to === 0}
    onclick={() => sheet.count(sheet.before(move), to)}>{sign}</Button>
{/snippet}

<section aria-label="Balance">
  <h2 class="font-bold">Balance</h2>
  <dl class="grid grid-cols-[1fr_auto_auto] gap-x-4 text-sm">
    {#each rows as [name, one, other] (name)}
      <dt>{name}</dt>
      <dd class="text-right font-bold">{one}</dd>
      <dd class="text-right font-bold">{other}</dd>
    {/each}
  </dl>
  {#if met.length > 0}
    <h2 class="mt-4 font-bold">Which return each strike meets</h2>
    <p class="text-sm text-soft">Drag a disc along the swing, or pick here.</p>
    <ol class="text-sm">
      {#each met as m (m.i)}
        <li class="flex items-center justify-between border-b border-rope">
          <span>{m.text.replace(/:\d$/, '')}, move {m.i + 1}: {meets(m.return)}, {ms(m.window)}{less(m)}</span>
          <span>
            {@render step('−', 'earlier', m.i, earlier(m))}
            {@render step('+', 'later', m.i, later(m))}
          </span>
        </li>
      {/each}
    </ol>
  {/if}
</section>
