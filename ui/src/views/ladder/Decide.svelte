<!-- What the coach does with the rung at hand: run it, change it, hold it, skip it, each but the first with a reason. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { takesFocus } from '../../lib/ui/focus'
  import Button from '../../lib/ui/Button.svelte'

  type Choice = Schemas['Decision']['choice']
  type Props = {
    proposal: Schemas['Proposal']
    busy: boolean
    ondecide: (choice: Choice, reason: string) => Promise<boolean>
  }
  let { proposal, busy, ondecide }: Props = $props()
  const asked = {
    change: { why: 'What to change, and why', press: 'Change it' },
    hold: { why: 'Why hold it here', press: 'Hold it' },
    skip: { why: 'Why the standard does not matter here', press: 'Skip it' },
  }
  let choosing = $state<keyof typeof asked | null>(null)
  let reason = $state('')

  async function decided(e: SubmitEvent) {
    e.preventDefault()
    if (!choosing || !(await ondecide(choosing, reason))) return
    choosing = null
    reason = ''
  }
</script>

<div class="flex max-w-md flex-wrap gap-2 lg:justify-end">
  <Button main disabled={!!proposal.barred || busy} onclick={() => ondecide('accept', '')}>Run it</Button>
  <Button disabled={!!proposal.barred || busy} onclick={() => (choosing = 'change')}>Change it first…</Button>
  {#if proposal.move === 'stay'}
    <Button disabled={busy} onclick={() => ondecide('goOn', '')}>Release it</Button>
  {:else}
    <Button disabled={busy} onclick={() => (choosing = 'hold')}>Hold…</Button>
  {/if}
  <Button disabled={busy} onclick={() => (choosing = 'skip')}>Skip…</Button>
  {#if choosing}
    <form class="w-full" onsubmit={decided}>
      <label class="block">
        <span class="label">{asked[choosing].why}</span>
        <input class="input mt-1" maxlength="400" required bind:value={reason} {@attach takesFocus} />
      </label>
      <div class="mt-2 flex gap-2">
        <Button main disabled={busy}>{asked[choosing].press}</Button>
        <Button type="button" onclick={() => (choosing = null)}>Cancel</Button>
      </div>
    </form>
  {/if}
</div>
