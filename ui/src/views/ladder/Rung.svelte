<!-- One rung of a ladder: how hard it is, how far it has been passed, and the rounds on it against the gate. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { percent, shortDay } from '../../lib/format'
  import { session } from '../../lib/session.svelte'

  type Props = { r: Schemas['RungView']; gate: Schemas['Gate']; here: boolean }
  let { r, gate, here }: Props = $props()
  const last = $derived(r.rounds.slice(-24))
  const y = (share: number) => 32 - 30 * share
  const hard = $derived(
    [
      ...(r.level == null ? [] : [`level ${r.level.toFixed(1)}`]),
      ...(r.clean == null ? [] : [`expect ${percent(r.clean)} clean`]),
    ].join(', '),
  )
  const passed = $derived.by(() => {
    if (r.skipped) return `Skipped: ${r.skipped}.`
    if (r.done && r.at) return `Passed on ${shortDay(r.at, session.zone)}.`
    return r.through > 0 ? `${r.through} of ${gate.rounds} rounds up to standard.` : ''
  })
  const told = $derived(
    [r.note, passed, r.best > 0 ? `Best ${r.best} in a row.` : '', r.held ? `Held back: ${r.held}.` : '']
      .filter(Boolean)
      .join(' '),
  )
  const step = $derived(r.done ? 'h-2 bg-ink' : `border-t-4 border-edge ${here ? '' : 'border-dashed'}`)
</script>

<li class="grid grid-cols-[3.5rem_1fr] gap-x-4 {here ? 'bg-sheet' : ''}" aria-current={here ? 'step' : undefined}>
  <div class="relative min-h-16" aria-hidden="true">
    <span class="absolute inset-y-0 left-2 w-1 bg-edge"></span>
    <span class="absolute inset-y-0 right-2 w-1 bg-edge"></span>
    <span class="absolute top-1/2 right-1.5 left-1.5 -translate-y-1/2 {step}"></span>
    {#if here}
      <span class="absolute top-1/2 left-1/2 size-6 -translate-1/2 rounded-full border-4 border-ink bg-sheet"></span>
    {/if}
  </div>
  <div class="grid items-center gap-x-6 gap-y-1 border-b border-rope py-2.5 sm:grid-cols-[1fr_auto]">
    <div>
      <p class="font-bold">{r.name} <span class="text-sm font-normal text-soft">{hard}</span></p>
      <p class="text-sm text-soft">{told}</p>
    </div>
    {#if last.length > 0}
      <svg
        width={last.length * 9 + 4}
        height="34"
        class="block"
        role="img"
        aria-label="Clean share by round: {last.map((x) => percent(x.clean)).join(', ')}">
        <path d="M0 {y(gate.clean)}h{last.length * 9 + 4}" stroke="var(--ink)" stroke-dasharray="3 3" />
        {#each last as x, k (x.id)}
          <rect
            x={k * 9 + 2}
            y={y(x.clean)}
            width="6"
            height={30 * x.clean}
            fill={x.through ? 'var(--ink)' : 'none'}
            stroke="var(--ink)"
            stroke-width="1.5" />
        {/each}
      </svg>
    {/if}
  </div>
</li>
