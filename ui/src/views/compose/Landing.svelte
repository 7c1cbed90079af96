<!-- Where the line lands on this bag. A strike's disc is dragged to another return, or pressed and stepped there. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { ms } from '../../lib/format'
  import { composedMoves, composedStrikes } from '../../lib/trace/geometry'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = { sheet: Sheet; p: Schemas['Answer']; c: Schemas['SwingLine']; stance: string }
  let { sheet, p, c, stance }: Props = $props()
  let picked = $state<number | undefined>()
  const m = $derived(picked === undefined ? undefined : c.moves[picked])
  const earlier = $derived(m?.choices.findLast((o) => o.count < m.return)?.count ?? 0)
  const later = $derived(m?.choices.find((o) => o.count > m.return)?.count ?? 0)
  const to = (count: number) => picked !== undefined && count > 0 && sheet.count(sheet.before(picked), count)
</script>

<div class="relative mt-2 bg-sheet py-1 {sheet.whatIf.pending ? 'opacity-70' : ''}" aria-busy={sheet.whatIf.pending}>
  <SwingTrace
    cycle={p.cycle}
    strikes={composedStrikes(c.moves)}
    moves={composedMoves(c.moves)}
    tempo={p.shown}
    {stance}
    from={-0.35}
    to={Math.max(1, p.cycle.return)}
    height={226}
    chosen={picked}
    choices={c.moves.map((m) => m.choices)}
    onpick={(i) => (picked = picked === i ? undefined : i)}
    onreturn={(i, n) => sheet.count(sheet.before(i), n)} />
  {#if m}
    <div
      class="absolute top-1 right-2 flex items-center gap-2 bg-sheet pl-2 text-sm"
      role="group"
      aria-label="The return it meets">
      <span>{m.said}, move {picked! + 1}: return {m.return}, {ms(m.window)} to meet it</span>
      <Button small disabled={earlier === 0} onclick={() => to(earlier)}>Earlier</Button>
      <Button small disabled={later === 0} onclick={() => to(later)}>Later</Button>
    </div>
  {/if}
</div>
