<!-- What a session asks for in all, and what stands against it, each with its remedy where there is one. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { countdown } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import type { Sheet } from './sheet.svelte'
  import { roundKinds } from '../../lib/labels.gen'

  type Props = { sheet: Sheet; remarks: Schemas['Remark'][]; totals: Schemas['Totals'] | undefined }
  let { sheet, remarks, totals }: Props = $props()
  const told = $derived(remarks.filter((r) => r.block < 0))
  const where = (round: number) => {
    const r = sheet.session?.rounds[round]
    return r ? `${r.emphasis || roundKinds[r.kind]}: ` : ''
  }
  const share = (part: number) => `${Math.round((100 * part) / Math.max(1, totals?.seconds ?? 1))}%`
  function mend(r: Schemas['Remark']) {
    const set = r.set
    if (!set) return
    sheet.change((s) => Object.assign(s.rounds[r.round]!, { [set.field]: set.to }), { round: r.round, block: -1 })
  }
</script>

<aside aria-label="In all">
  {#if totals}
    <dl class="grid grid-cols-[1fr_auto] gap-x-4">
      <dt class="text-soft">On the bag</dt>
      <dd class="text-right font-bold">{countdown(totals.onBag)}</dd>
      <dt class="text-soft">Resting</dt>
      <dd class="text-right font-bold">{countdown(totals.resting)}</dd>
      {#if totals.strikes > 0}
        <dt class="text-soft">Strikes, lead and rear</dt>
        <dd class="text-right font-bold">{totals.leadHand} : {totals.rearHand}</dd>
        <dt class="text-soft">Slips, lead and rear</dt>
        <dd class="text-right font-bold">{totals.slipsLead} : {totals.slipsRear}</dd>
        <dt class="text-soft">Attack to defence</dt>
        <dd class="text-right font-bold">{totals.strikes} : {totals.defences}</dd>
      {/if}
    </dl>
    <div
      class="mt-3 flex h-3 border border-ink"
      role="img"
      aria-label="Easy {countdown(totals.easy)}, moderate {countdown(totals.moderate)}, hard {countdown(totals.hard)}">
      <span style:width={share(totals.easy)} class="bg-shade"></span>
      <span style:width={share(totals.moderate)} class="bg-edge"></span>
      <span style:width={share(totals.hard)} class="bg-ink"></span>
    </div>
    <p class="text-sm text-soft">
      Easy {countdown(totals.easy)}, moderate {countdown(totals.moderate)}, hard {countdown(totals.hard)}{totals.open >
      0
        ? `; own drills ${countdown(totals.open)}`
        : ''}. Strikes are modelled.
    </p>
  {/if}
  {#each told as r (r.round + r.text)}
    <div class="mt-3 border-l-4 {r.bars ? 'border-ink font-semibold' : 'border-rope'} pl-3 text-sm">
      <p>{where(r.round)}{r.text}</p>
      {#if r.set}<Button small class="mt-1" onclick={() => mend(r)}>{r.set.say}</Button>{/if}
    </div>
  {/each}
</aside>
