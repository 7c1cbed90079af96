<!-- Serves whoever sets a device up for the floor: how late it tells of a tap, measured once by tapping along. -->
<script lang="ts">
  import { onDestroy } from 'svelte'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { day, ms } from '../lib/format'
  import { Beats } from '../lib/run/beats.svelte'
  import { forget, keep, kept } from '../lib/run/delay'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Problem from '../lib/ui/Problem.svelte'

  let by = $state<'clicks' | 'flashes'>('clicks')
  let now = $state(kept())
  let found = $state<Schemas['DelayFound'] | null>(null)
  let problem = $state('')
  const beats = new Beats()
  onDestroy(() => beats.stop())

  async function start() {
    found = null
    problem = ''
    const taken = await beats.run(by)
    if (!taken) return
    try {
      found = await ask(api.POST('/api/tap-delay', { body: taken }))
    } catch (e) {
      problem = `${(e as Error).message} Nothing was kept.`
    }
  }
  function use() {
    if (!found) return
    if (!keep(found, by)) problem = 'This browser stores nothing, so the delay cannot be taken off here.'
    now = kept()
    found = null
  }
  function key(e: KeyboardEvent) {
    if (!beats.on || e.repeat) return
    if (e.key === 'Escape') beats.stop()
    else if (e.key === ' ' || /^[fj]$/i.test(e.key)) beats.tap(e.timeStamp)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={key} />
<svelte:head><title>Delay of this device · Melodromos</title></svelte:head>
<h1 class="text-3xl font-extrabold">
  {now ? `This device registers a tap ${ms(now.late)} late.` : 'How late does this device register a tap?'}
</h1>
<p class="mt-2 max-w-prose text-lg">
  {now
    ? `Measured with ${now.with} on ${day(now.at, session.zone)}; taken off the taps of every round on this device.`
    : 'Every screen and every speaker is a little late. Tap along with ten clicks, once on each device, and it is taken off.'}
</p>
<div class="mt-4 max-w-xl">
  <Choice
    label="Tap along with"
    value={by}
    options={[
      { value: 'clicks', text: 'Ten clicks' },
      { value: 'flashes', text: 'Ten flashes' },
    ]}
    onchange={(v) => (by = v)}
    note={by === 'clicks'
      ? 'With the sound on, as on the floor.'
      : 'Where the sound is off: the disc fills ten times.'} />
  <button
    class="mt-3 flex min-h-40 w-full items-center gap-6 rounded-[3px] border-2 border-edge bg-sheet px-6 text-left"
    onpointerdown={(e) => {
      if (beats.on) beats.tap(e.timeStamp)
    }}
    onclick={() => {
      if (!beats.on) void start()
    }}>
    <span class="size-10 shrink-0 rounded-full border-4 border-strike {beats.lit ? 'bg-strike' : ''}" aria-hidden="true"
    ></span>
    <span class="figure text-4xl" aria-live="polite"
      >{beats.on ? (beats.taps > 0 ? `${beats.taps} taps` : 'Tap with it, here or with Space') : 'Start'}</span>
  </button>
  {#if beats.on}<Button class="mt-2" onclick={() => beats.stop()}>Stop</Button>{/if}
  <Problem text={problem} />
  {#if found}
    <p class="mt-3 text-lg" role="status">
      <strong>{ms(found.late)} late</strong>, from {found.matched} beats; two taps in three within {ms(found.spread)} of that.
    </p>
    <Button main class="mt-2" onclick={use}>Use this delay</Button>
  {/if}
  {#if now && !beats.on}<Button
      quiet
      class="mt-4"
      onclick={() => {
        forget()
        now = null
      }}>Forget this delay</Button
    >{/if}
  <p class="mt-6 text-sm text-soft">
    People tap a few hundredths of a second ahead of a beat they expect. The figure includes that.
  </p>
</div>
