<!-- Learning the real bag: strike and tap along, count returns in a time, or start and stop a watch. What it would change is
     shown before it is kept; what was kept is listed and can be undone. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../api/client'
  import { clockTime, ms, shortDay, type Units } from '../format'
  import { session } from '../session.svelte'
  import Choice from '../ui/Choice.svelte'
  import { kinds, valueOf } from './kinds.svelte'
  import TapMoments from './TapMoments.svelte'

  type Props = { rig: Schemas['Rig']; dirty: boolean; units: Units; onkept: (rig: Schemas['Rig']) => void }
  let { rig, dirty, units, onkept }: Props = $props()
  const client = useQueryClient()
  const history = createQuery(() => ({
    queryKey: ['calibrations', rig.id, rig.version],
    queryFn: () => ask(api.GET('/api/rigs/{id}/calibrations', { params: { path: { id: rig.id } } })),
  }))

  const moments = createQuery(() => ({
    queryKey: ['tap-moments', rig.id, rig.version],
    queryFn: () => ask(api.POST('/api/tap-moments', { body: rig.doc })),
  }))

  type Method = Schemas['Measured']['method']
  type Reading = NonNullable<Schemas['Measured']['reading']>
  let method = $state<Method>('taps')
  let strikes = $state<number[][]>([[]])
  let count = $state(6)
  let seconds = $state<number | null>(null)
  let started = $state<number | null>(null)
  let fit = $state<Schemas['Fit'] | null>(null)
  let reading = $state<Reading>('')
  let settled = $state(false) // what a doubt asked was answered
  let problem = $state('')
  let turn = 0 // answers that come late are dropped

  const words = $derived(kinds.of(rig.doc.kind).tapping)
  const last = $derived(strikes.at(-1)!)
  const good = $derived(strikes.filter((s) => s.length >= 4))
  const measured = $derived<Schemas['Measured']>({
    ...(method === 'taps' ? { method, strikes: good } : { method, count, seconds: seconds ?? 0 }),
    reading,
  })
  const newest = $derived(history.data?.find((c) => !c.undone))
  const methods: Record<string, string> = {
    taps: 'tapped along',
    count: 'counted in a time',
    period: 'started and stopped',
    rounds: 'rounds that agree',
  }

  // Three seconds without a tap, and the next one is another strike.
  function tap(e: Event) {
    const now = e.timeStamp / 1000
    if (last.length > 0 && now - last.at(-1)! > 3) strikes.push([now])
    else last.push(now)
    void look()
  }
  function keys(e: KeyboardEvent) {
    if (e.key === ' ' && !e.repeat) tap(e)
    else if (e.key === 'Enter' && last.length > 0) strikes.push([])
    else return
    e.preventDefault()
  }
  function watch(e: Event) {
    const now = e.timeStamp / 1000
    if (started === null) {
      started = now
      seconds = null
    } else {
      seconds = now - started
      started = null
      void look()
    }
  }
  function again() {
    strikes = [[]]
    seconds = null
    started = null
    fit = null
    reading = ''
    settled = false
    problem = ''
  }

  /** Reads the measurement in another way, or keeps to what was asked for. */
  function readAs(as: Reading) {
    reading = as
    settled = true
    void look()
  }
  const doubted = $derived(!settled ? fit?.doubt : null)

  async function look() {
    const mine = ++turn
    if (method === 'taps' ? good.length === 0 : !(seconds && seconds > 0)) return
    try {
      const f = await ask(api.POST('/api/calibrate', { body: { rig: rig.doc, measured } }))
      if (mine === turn) [fit, problem] = [f, '']
    } catch (e) {
      if (mine === turn) [fit, problem] = [null, (e as Error).message]
    }
  }

  async function keep() {
    try {
      onkept(
        await ask(
          api.POST('/api/rigs/{id}/calibrations', {
            params: { path: { id: rig.id } },
            body: { version: rig.version, measured },
          }),
        ),
      )
      again()
      await client.invalidateQueries()
      toast('The calibration is kept.')
    } catch (e) {
      problem = `${(e as Error).message} Nothing was changed.`
    }
  }
  async function undo(id: string) {
    try {
      onkept(await ask(api.POST('/api/rigs/{id}/undo-calibration', { params: { path: { id: rig.id } }, body: { id } })))
      await client.invalidateQueries()
      toast('The calibration is undone.')
    } catch (e) {
      problem = (e as Error).message
    }
  }
  const value = (parameter: string, v: number) => valueOf(parameter, v, units)
  const tight = (f: { parameter: string; value: number; spread: number | null }) =>
    f.spread === null ? '' : ` ± ${value(f.parameter, f.spread)}`
</script>

{#if newest?.stale}<p class="mb-2 border-l-4 border-ink pl-3 font-semibold" role="status">
    The rig was changed after its last calibration. Measure it again.
  </p>
{:else if history.data && !newest}<p class="mb-2 text-soft">
    Not calibrated yet: {words.parameter.toLowerCase()} is assumed.
  </p>{/if}

<Choice
  label="How it is measured"
  value={method}
  options={[
    { value: 'taps', text: 'Strike and tap along' },
    { value: 'count', text: 'Count in a time' },
    { value: 'period', text: 'Start and stop' },
  ]}
  onchange={(v) => {
    method = v as Method
    again()
  }} />
{#if dirty}
  <p class="mt-2 text-soft">Save the measures first; then it is calibrated as saved.</p>
{:else}
  {#if moments.data}<TapMoments
      moments={moments.data}
      kind={rig.doc.kind}
      first={words.first}
      counted={words.counted} />
  {:else if moments.isError}<p class="mt-2 text-soft">
      The moments to tap could not be drawn: {moments.error.message}
      <button class="button quiet" onclick={() => moments.refetch()}>Try again</button>
    </p>{/if}
  {#if method === 'taps'}
    <p class="mt-2 text-sm">
      {words.how} Two strikes of ten taps tell it well. Space taps; Enter, or three seconds of quiet, begins the next strike.
    </p>
    <button
      class="button main mt-2 min-h-20 w-full text-xl"
      onpointerdown={(e) => {
        e.preventDefault()
        ;(e.currentTarget as HTMLElement).focus()
        tap(e)
      }}
      onkeydown={keys}>
      {last.length === 0 ? 'Tap with the strike' : `Tap ${words.counted} (${last.length - 1})`}
    </button>
    <ol class="mt-2">
      {#each strikes.filter((s) => s.length > 0) as s, i (i)}
        <li class="relative h-6 border-b border-rope" aria-label="Strike {i + 1}: {s.length - 1} {words.counted}">
          {#each s as t, k (k)}<span
              class="absolute bottom-0 w-0.5 {k === 0 ? 'h-5 bg-strike' : 'h-3.5 bg-brass'}"
              style:left={`${(100 * (t - s[0]!)) / Math.max(3, s.at(-1)! - s[0]!)}%`}></span
            >{/each}
        </li>
      {/each}
    </ol>
  {:else}
    <p class="mt-1 text-sm">
      {method === 'count'
        ? `Strike it at half power${rig.doc.kind === 'slip' || rig.doc.kind === 'hanging' ? ' (a pendulum gently)' : ''} and count ${words.counted} against a watch, from the strike on.`
        : `Set it swinging. Start at one of the ${words.counted}, count on, and stop at the last.`}
    </p>
    <div class="mt-2 flex flex-wrap items-end gap-3">
      <label class="block w-28"
        ><span class="label">Count of {words.counted}</span><input
          class="input mt-1"
          type="number"
          min="1"
          max="60"
          bind:value={count}
          oninput={() => void look()} /></label>
      {#if method === 'count'}
        <label class="block w-28"
          ><span class="label">Seconds</span><input
            class="input mt-1"
            type="number"
            min="0.05"
            max="300"
            step="any"
            bind:value={seconds}
            oninput={() => void look()} /></label>
      {:else}
        <button class="button main min-h-16 min-w-32 text-lg" onclick={watch}
          >{started === null ? 'Start' : 'Stop'}</button>
        {#if seconds}<span class="figure pb-2 text-3xl">{seconds.toFixed(2)} s</span>{/if}
      {/if}
    </div>
  {/if}
  {#if problem}<p class="mt-2 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}
  {#if fit}
    <p class="mt-3 text-lg">
      <b>{words.parameter}: {value(fit.parameter, fit.value)}{tight(fit)}</b>, where {value(fit.parameter, fit.was)} stood.
    </p>
    <p class="text-sm text-soft">
      {fit.assumed
        ? `Start and stop by hand are taken to be ${ms(fit.tapError)} off, and the force is assumed.`
        : `Your taps are ±${ms(fit.tapError)}; the fit leaves ${fit.residual === null ? '–' : ms(fit.residual)} over.`}
      {#if fit.outliers > 0}{fit.outliers} of them {fit.outliers === 1 ? 'is' : 'are'} far off and count for less.{/if}
    </p>
  {/if}
  {#if fit && doubted}
    <div class="mt-3 border-l-4 border-brass pl-3" role="alert">
      <p class="font-semibold">
        {doubted.reading === 'twice' ? words.twice : `Only every second one of the ${words.counted}?`}
      </p>
      <p>
        Then it is {value(fit.parameter, doubted.value)}, nearer to the {value(fit.parameter, fit.was)} that stood, and not
        {value(fit.parameter, fit.value)}.
      </p>
      <div class="mt-1 flex flex-wrap gap-2">
        <button class="button" onclick={() => readAs(doubted.reading)}
          >{doubted.reading === 'twice' ? 'Yes, both' : 'Yes, every second one'}</button>
        <button class="button" onclick={() => readAs('')}>No, as shown above</button>
      </div>
    </div>
  {/if}
  <div class="mt-2 flex flex-wrap gap-2">
    <button class="button main" disabled={!fit || !!doubted} onclick={keep}>Keep this</button>
    <button
      class="button"
      disabled={!fit && last.length === 0 && strikes.length === 1 && !seconds && !problem}
      onclick={again}>Begin again</button>
  </div>
{/if}

{#if history.data && history.data.length > 0}
  <h3 class="label mt-5">Kept so far</h3>
  <ul class="text-sm">
    {#each history.data as c (c.id)}
      <li
        class="flex flex-wrap items-center justify-between gap-2 border-b border-rope py-1.5 {c.undone
          ? 'text-soft line-through'
          : ''}">
        <span
          >{shortDay(c.at, session.zone)}, {clockTime(c.at, session.zone)}:
          <b>{value(c.parameter, c.value)}{tight(c)}</b>, {methods[c.method]}{c.residual === null
            ? ''
            : `, ${ms(c.residual)} left over`}; before it {value(c.parameter, c.was)}</span>
        {#if c.id === newest?.id && !dirty}<button class="button !min-h-9 !px-2 !py-0" onclick={() => undo(c.id)}
            >Undo</button
          >{/if}
      </li>
    {/each}
  </ul>
{/if}
