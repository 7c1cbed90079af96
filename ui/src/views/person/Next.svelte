<!-- What somebody does next, and why. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'

  type Proposal = Schemas['Proposal']
  type Props = {
    next: Proposal | undefined
    bags: Proposal[]
    busy: boolean
    onrun: (p: Proposal, choice?: 'accept' | 'change') => void
  }
  let { next, bags, busy, onrun }: Props = $props()
  const figures = $derived([
    ...(next?.clean == null
      ? []
      : [{ name: 'expected clean', text: String(Math.round(100 * next.clean)), unit: ' %' }]),
    { name: 'goal in a row', text: String(next?.target ?? ''), unit: '' },
    ...(next?.level == null ? [] : [{ name: 'level', text: next.level.toFixed(1), unit: '' }]),
  ])
</script>

{#if next && !next.barred}
  <section class="mt-4 grid items-end gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <div>
      <p class="label">Next</p>
      <h2 class="text-4xl leading-tight font-extrabold tracking-tight">{next.name}, on the {next.rigName}.</h2>
      <p class="mt-2 max-w-prose text-lg">{next.why} {next.note}</p>
      <div class="mt-4 flex flex-wrap gap-2">
        <Button main class="!px-8 !text-lg" disabled={busy} onclick={() => onrun(next)}>Run it</Button>
        <Button disabled={busy} onclick={() => onrun(next, 'change')}>Change it first</Button>
      </div>
    </div>
    <dl class="flex gap-8">
      {#each figures as f (f.name)}
        <div>
          <dt class="label">{f.name}</dt>
          <dd class="figure text-7xl">{f.text}<span class="text-3xl">{f.unit}</span></dd>
        </div>
      {/each}
    </dl>
  </section>
{:else if bags.length > 0}
  <h2 class="mt-3 text-4xl leading-tight font-extrabold tracking-tight">Nothing today.</h2>
  <p class="mt-2 max-w-prose text-lg">{bags[0]?.why}</p>
{:else}
  <Notice title="No bag hangs here yet." text="What comes next is worked out for the bags of this gym.">
    <Button main href="#/bags/new">Add a bag</Button>
  </Notice>
{/if}
