<!-- What the coach does with the rung at hand: run it, change it, hold it, skip it, each but the first with a reason. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'

  type Choice = Schemas['Decision']['choice']
  type Props = {
    proposal: Schemas['Proposal']
    busy: boolean
    ondecide: (choice: Choice, reason: string) => Promise<boolean>
  }
  let { proposal, busy, ondecide }: Props = $props()
  const asked = {
    change: { why: 'What should be otherwise, and why', press: 'Change it' },
    hold: { why: 'Why it stays here', press: 'Hold it' },
    skip: { why: 'Why the gate does not matter here', press: 'Skip it' },
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
  <button class="button main" disabled={!!proposal.barred || busy} onclick={() => ondecide('accept', '')}
    >Run it</button>
  <button class="button" disabled={!!proposal.barred || busy} onclick={() => (choosing = 'change')}>
    Change it first…
  </button>
  {#if proposal.move === 'stay'}
    <button class="button" disabled={busy} onclick={() => ondecide('goOn', '')}>Let it go on</button>
  {:else}
    <button class="button" disabled={busy} onclick={() => (choosing = 'hold')}>Hold…</button>
  {/if}
  <button class="button" disabled={busy} onclick={() => (choosing = 'skip')}>Skip…</button>
  {#if choosing}
    <form class="w-full" onsubmit={decided}>
      <label class="block">
        <span class="label">{asked[choosing].why}</span>
        <!-- svelte-ignore a11y_autofocus -->
        <input class="input mt-1" maxlength="400" required autofocus bind:value={reason} />
      </label>
      <div class="mt-2 flex gap-2">
        <button class="button main" disabled={busy}>{asked[choosing].press}</button>
        <button type="button" class="button" onclick={() => (choosing = null)}>Leave it</button>
      </div>
    </form>
  {/if}
</div>
