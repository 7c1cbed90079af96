<!-- Serves the trainee at a screen: short tests of what the hands, the inner clock and the eyes and ears can do. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy } from 'svelte'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { ability, figureNames, sure } from '../lib/format'
  import { Trial } from '../lib/people/trial.svelte'
  import { session } from '../lib/session.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const person = createQuery(() => ({
    queryKey: ['trainee', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}', { params: { path: { id: params.id } } })),
  }))
  const plan = createQuery(() => ({
    queryKey: ['test-plan'],
    queryFn: () => ask(api.GET('/api/test-plan')),
    staleTime: Infinity,
  }))

  type Kind = Schemas['TestTaken']['test']
  const kinds: { value: Kind; text: string; how: string }[] = [
    { value: 'alternate', text: 'Two hands', how: 'Left and right in turn, as quick as they go, for ten seconds.' },
    { value: 'sameHand', text: 'One hand', how: 'One hand again and again, as quick as it goes, for ten seconds.' },
    {
      value: 'beat',
      text: 'Keep the beat',
      how: 'Tap with twelve clicks, and go on at the same beat once they stop. Twice.',
    },
    {
      value: 'sight',
      text: 'Light',
      how: 'Tap as soon as the disc fills. Ten times, after a wait that cannot be foreseen.',
    },
    { value: 'sound', text: 'Sound', how: 'Tap as soon as it sounds. Ten times.' },
  ]
  let kind = $state<Kind>('alternate')
  let fists = $state(false)
  let result = $state<Schemas['TestResult'] | null>(null)
  let problem = $state('')
  const trial = new Trial()
  onDestroy(() => trial.stop())
  const about = $derived(kinds.find((k) => k.value === kind)!)
  const rate = $derived(kind === 'alternate' || kind === 'sameHand')

  async function start() {
    if (!plan.data) return
    result = null
    problem = ''
    const taps = await trial.run(kind, plan.data)
    if (!taps) return
    try {
      result = await ask(
        api.POST('/api/trainees/{id}/tests', {
          params: { path: { id: params.id } },
          body: { test: kind, taps, fists: rate && fists },
        }),
      )
      await client.invalidateQueries({ queryKey: ['person', params.id] })
    } catch (e) {
      problem = `${(e as Error).message} Nothing was kept.`
    }
  }
  function key(e: KeyboardEvent) {
    if (trial.state === 'idle' || e.repeat) return
    if (e.key === 'Escape') trial.stop()
    else if (e.key === ' ' || /^[fj]$/i.test(e.key)) trial.tap(e.timeStamp)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={key} />
<svelte:head><title>Tests · Melodromos</title></svelte:head>
{#if person.isError}
  <Notice title="This person could not be read" text={person.error.message} again={() => person.refetch()}
    ><a class="button" href="#/people">To the people</a></Notice>
{:else if person.data && plan.data}
  <p class="label"><a href="#/people/{params.id}">{person.data.name}</a></p>
  <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">
    {result ? result.sentence : trial.state === 'idle' ? about.text : trial.says}
  </h1>
  <div class="mt-3 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_1fr]">
    <div>
      <Choice
        label="Test"
        value={kind}
        options={kinds.map(({ value, text }) => ({
          value,
          text,
          ...(trial.state === 'idle' ? {} : { off: 'a test is under way' }),
        }))}
        onchange={(v) => {
          kind = v
          result = null
          problem = ''
        }}
        note={about.how} />
      {#if rate}<Choice
          label="With"
          value={fists ? 'fists' : 'fingers'}
          options={[
            { value: 'fingers', text: 'Fingers' },
            { value: 'fists', text: 'Fists on a pad' },
          ]}
          onchange={(v) => (fists = v === 'fists')}
          note={fists
            ? 'Gloves on a padded tablet, or somebody tapping along: it is taken as it is.'
            : 'Fingers are not fists: they only say what fists cannot beat.'} />{/if}
      {#if problem}<p class="mt-2 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}
      {#if result}
        <ul class="mt-3">
          {#each result.found as f (f.note + f.value)}<li class="border-b border-rope py-1.5">
              {f.floor ? 'At least' : 'Found'}:
              <b>{ability(kind === 'beat' ? (f.floor ? 'timing' : 'motor') : kind, f.value, session.units)}</b>
              <span class="text-sm text-soft"
                >{kind === 'beat' ? figureNames[f.floor ? 'timing' : 'motor']!.toLowerCase() : ''}
                {sure(kind === 'beat' ? (f.floor ? 'timing' : 'motor') : kind, f.spread, session.units)}</span>
            </li>{/each}
        </ul>
        <p class="mt-2 text-sm text-soft">
          {result.used} used{result.leftOut > 0 ? `, ${result.leftOut} left out` : ''}. It is kept with its spread, and
          rounds on the bag weigh more.
        </p>
      {/if}
    </div>
    <div class="bg-sheet p-4">
      {#if trial.state === 'idle'}
        <button class="button main h-[min(56vh,34rem)] w-full !text-5xl" onclick={start}
          >{result || problem ? 'Again' : 'Start'}</button>
      {:else}
        <!-- svelte-ignore a11y_no_static_element_interactions -- keys do the same -->
        <div
          class="grid h-[min(56vh,34rem)] touch-none grid-cols-[1fr_auto_1fr] items-stretch gap-2 select-none sm:gap-4"
          onpointerdown={(e) => {
            e.preventDefault()
            trial.tap(e.timeStamp)
          }}>
          <div class="grid place-items-center border-2 border-rope text-2xl font-bold text-soft sm:text-5xl">
            {kind === 'alternate' ? 'Left' : ''}
          </div>
          <div class="grid w-28 place-items-center sm:w-56">
            <svg viewBox="0 0 120 120" class="w-full" role="img" aria-label={trial.lit ? 'Now' : 'Wait'}
              ><circle
                cx="60"
                cy="60"
                r="50"
                fill={trial.lit ? 'var(--ink)' : 'none'}
                stroke="var(--ink)"
                stroke-width="4" /><text
                x="60"
                y="77"
                text-anchor="middle"
                font-size="48"
                font-weight="800"
                class="figure"
                fill={trial.lit ? 'var(--sheet)' : 'var(--ink)'}>{trial.left}</text
              ></svg>
          </div>
          <div class="grid place-items-center border-2 border-rope text-2xl font-bold text-soft sm:text-5xl">
            {kind === 'alternate' ? 'Right' : ''}
          </div>
        </div>
      {/if}
      <p class="mt-3 text-sm text-soft">Tap anywhere here, or F, J or Space. Escape stops it and keeps nothing.</p>
    </div>
  </div>
{:else}
  <Notice title="Reading…" />
{/if}
