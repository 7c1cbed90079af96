<!-- A round as a sentence: what it is for, how long it lasts, how long the rest after it. -->
<script lang="ts">
  import { countdown } from '../../lib/format'
  import Part from '../../lib/say/Part.svelte'
  import Pick from '../../lib/say/Pick.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Seconds from './Seconds.svelte'
  import type { Round, Sheet } from './sheet.svelte'
  import { roundKinds } from '../../lib/labels.gen'
  import { options } from './words'

  let { sheet, round }: { sheet: Sheet; round: Round } = $props()
  const last = $derived(sheet.round + 1 === sheet.session?.rounds.length)
  const bounded = (v: number, least: number, most: number) => Math.min(most, Math.max(least, v))
</script>

<h2 class="text-xl leading-9 font-bold">
  <Part text={roundKinds[round.kind]} label="Kind of round">
    {#snippet children(close)}
      <Pick
        label="What it is"
        value={round.kind}
        options={options(roundKinds)}
        onpick={(v) => {
          sheet.setRound({ kind: v as Round['kind'] })
          close()
        }} />
    {/snippet}
  </Part>
  <span class="font-normal">for</span>
  <Part text={round.emphasis || 'nothing named'} label="Emphasis">
    {#snippet children(close)}
      <label class="block">
        <span class="label">The one thing that it is for</span>
        <input
          class="input mt-1"
          maxlength="120"
          value={round.emphasis}
          oninput={(e) => sheet.setRound({ emphasis: e.currentTarget.value })}
          onkeydown={(e) => e.key === 'Enter' && close()} />
      </label>
    {/snippet}
  </Part><span class="font-normal">: it lasts</span>
  <Part
    text={countdown(round.seconds)}
    label="Round length"
    figure
    onstep={(by) => sheet.setRound({ seconds: bounded(round.seconds + 10 * by, 10, 3600) })}>
    <Seconds label="Round length" value={round.seconds} least={10} onchange={(v) => sheet.setRound({ seconds: v })} />
  </Part>{#if !last}<span class="font-normal">, then rest</span>
    <Part
      text="{round.rest} s"
      label="Rest"
      figure
      onstep={(by) => sheet.setRound({ rest: bounded(round.rest + 5 * by, 0, 900) })}>
      <Seconds label="Rest" value={round.rest} least={0} most={900} onchange={(v) => sheet.setRound({ rest: v })} />
    </Part>
  {/if}<span class="font-normal">.</span>
</h2>
<p class="mt-1 flex flex-wrap gap-1">
  <Button small quiet onclick={() => sheet.addRound()}>Copy this round</Button>
  <Button small quiet disabled={sheet.round === 0} onclick={() => sheet.moveRound(-1)}>Earlier</Button>
  <Button small quiet disabled={last} onclick={() => sheet.moveRound(1)}>Later</Button>
  <Button small quiet disabled={sheet.session?.rounds.length === 1} onclick={() => sheet.removeRound()}
    >Take it out</Button>
</p>
