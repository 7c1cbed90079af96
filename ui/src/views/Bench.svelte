<!-- Serves the coach at the desk, and beside the bag with a tape measure: how to hang this rig for somebody, what it then does,
     and what is wrong with it. One page for all kinds. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { push, replace, router } from 'svelte-spa-router'
  import { toast } from 'svelte-sonner'
  import { tick, untrack } from 'svelte'
  import { api, ask, Refusal, type Schemas } from '../lib/api/client'
  import Calibrate from '../lib/bench/Calibrate.svelte'
  import Checks from '../lib/bench/Checks.svelte'
  import Cords from '../lib/bench/Cords.svelte'
  import { read, write, type Doc, type Place } from '../lib/bench/fields'
  import { choices, everyday, kindNames, labelOf, measuresOf, parts, placeOf, shownAs, valueOf, type Measure } from '../lib/bench/measures'
  import SetUp from '../lib/bench/SetUp.svelte'
  import SharedAnchor from '../lib/bench/SharedAnchor.svelte'
  import SideView from '../lib/bench/SideView.svelte'
  import { figure, length, ms, range, speed, tempoOf } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import { sample } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Field from '../lib/ui/Field.svelte'
  import FromRounds from '../lib/bench/FromRounds.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import TempoTable from '../lib/ui/TempoTable.svelte'
  import { WhatIf } from '../lib/whatif.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))

  let saved = $state<Schemas['Rig'] | null>(null)
  let doc = $state<Doc>(structuredClone(everyday.speed.doc))
  let place = $state<Place>({})
  let name = $state('')
  let problem = $state('')
  let trouble = $state('')
  let reading = $state(true)
  let rebounds = $state(3)
  let strikeAngle = $state(25)
  let wanted = $state<{ tempo?: number; launch?: number }>({})
  let traineeId = $state('')
  let other = $state('')

  const whatIf = new WhatIf((q: Schemas['BenchQuestion']) => ask(api.POST('/api/bench', { body: q })))
  const a = $derived(whatIf.answer)
  const kind = $derived(doc.kind)
  const units = $derived(session.units)
  const isNew = $derived(params.id === 'new')
  const trainee = $derived(people.data?.find((t) => t.id === traineeId))
  const behind = $derived(a?.tempos.find((t) => t.rebounds === rebounds)?.face === 'behind')
  const same = (x: unknown, y: unknown) => JSON.stringify(sortedOf(x)) === JSON.stringify(sortedOf(y))
  const changed = $derived(isNew || (saved !== null && (name !== saved.name || !same(doc, saved.doc) || !same(place, saved.place))))

  function sortedOf(v: unknown): unknown {
    if (v === null || typeof v !== 'object') return v
    return Object.fromEntries(Object.entries(v).filter(([, x]) => x !== 0 && x !== '' && x !== false).sort(([p], [q]) => (p < q ? -1 : 1)).map(([k, x]) => [k, sortedOf(x)]))
  }

  $effect(() => {
    const id = params.id
    const query = router.querystring ?? ''
    untrack(() => void load(id, new URLSearchParams(query)))
  })
  $effect(() => {
    // For whom: the one of the address, the one of last time, or the first whose height is known.
    const list = people.data
    if (!list || traineeId) return
    const remembered = new URLSearchParams(router.querystring ?? '').get('trainee') ?? localStorage.getItem('bench-for')
    traineeId = (list.find((t) => t.id === remembered) ?? list.find((t) => t.height) ?? list[0])?.id ?? ''
  })
  $effect(() => {
    if (reading || !(saved || isNew) || people.isPending) return
    const question: Schemas['BenchQuestion'] = { rig: $state.snapshot(doc), place: $state.snapshot(place), rebounds, ...wanted }
    if (kind === 'speed') question.strikeAngle = strikeAngle
    if (traineeId) question.traineeId = traineeId
    if (kind === 'slip' && other && other !== traineeId) question.others = [other]
    untrack(() => void whatIf.ask(question))
  })

  async function load(id: string, query: URLSearchParams) {
    trouble = ''
    problem = ''
    reading = true
    if (id === 'new') {
      saved = null
      const copied = query.get('copy')
      if (copied) {
        try {
          const from = await ask(api.GET('/api/rigs/{id}', { params: { path: { id: copied } } }))
          begin(from.doc, from.place ?? {}, `${from.name}, copy`)
        } catch (e) {
          trouble = (e as Error).message
        }
        reading = false
        return
      }
      const k = (query.get('kind') ?? 'speed') as Doc['kind']
      begin((everyday[k] ?? everyday.speed).doc, (everyday[k] ?? everyday.speed).place, kindNames[k] ?? kindNames.speed)
      reading = false
      return
    }
    try {
      const rig = await ask(api.GET('/api/rigs/{id}', { params: { path: { id } } }))
      rebounds = rig.doc.kind === 'speed' ? 3 : 1
      wanted = {}
      take(rig)
    } catch (e) {
      trouble = (e as Error).message
    }
    reading = false
  }
  function begin(d: Doc, p: Place, n: string) {
    doc = structuredClone(d)
    place = structuredClone(p)
    name = n
    wanted = {}
    rebounds = d.kind === 'speed' ? 3 : 1
  }
  function take(rig: Schemas['Rig']) {
    const plain = $state.snapshot(rig) as Schemas['Rig']
    saved = plain
    name = plain.name
    doc = structuredClone(plain.doc)
    place = structuredClone(plain.place ?? {})
  }

  async function save() {
    problem = ''
    const before = $state.snapshot(saved) as Schemas['Rig'] | null
    try {
      if (!name.trim()) throw new Refusal(422, 'Give the bag a name.')
      const body = { id: '', name: name.trim(), version: saved?.version ?? 0, doc: $state.snapshot(doc), place: $state.snapshot(place) } as Schemas['Rig']
      if (isNew) {
        const made = await ask(api.POST('/api/rigs', { body }))
        toast(`${made.name} is saved.`)
        await client.invalidateQueries()
        // The first speed bag of a gym leads on to the first drill.
        const drills = await ask(api.GET('/api/drills'))
        void replace(drills.length === 0 && kind === 'speed' ? `/drills/new?rig=${made.id}` : `/bags/${made.id}`)
        return
      }
      take(await ask(api.PUT('/api/rigs/{id}', { params: { path: { id: params.id } }, body })))
      await client.invalidateQueries()
      toast(`${name} is saved.`, { action: { label: 'Undo', onClick: () => void undo(before) } })
    } catch (e) {
      problem = `${(e as Error).message} Nothing was saved.`
    }
  }
  async function undo(before: Schemas['Rig'] | null) {
    if (!before || !saved) return
    name = before.name
    doc = structuredClone(before.doc)
    place = structuredClone(before.place ?? {})
    await save()
  }

  /** Sets measures anew; a strike that was asked for by its force keeps it, one by its tempo its tempo. */
  function set(changes: { field: string; to: number }[]) {
    const next = write($state.snapshot(doc) as Doc, $state.snapshot(place) as Place, changes)
    doc = next.doc
    place = next.place
  }
  /** Winds both cords a step on from where they are, however quick the presses come. */
  let winding = Promise.resolve()
  function wind(way: 'looser' | 'tighter') {
    winding = winding.then(async () => {
      await tick()
      await whatIf.settled()
      const changes = whatIf.answer?.cords?.[way]
      if (changes?.length) set(changes)
    })
  }
  function choose(change: Partial<Place>) {
    place = { ...place, ...change }
  }
  const value = (field: string) => read(doc, place, field)
  const of = (field: string) => (whatIf.refusal?.field.endsWith(`.${field.replace('place.', '')}`) ? whatIf.refusal.message : '')
  const strikes = $derived(a && kind !== 'slip' ? sample(a.cycle, ['lead', 'rear']) : [])
  const span = $derived(!a ? 1 : kind === 'slip' ? a.cycle.trace.at(-1)!.at : kind === 'speed' ? Math.max(0.75, a.cycle.return + 0.22) : Math.max(0.75, a.cycle.return * (rebounds > 1 ? 1.15 : 2.2)))
  const pulls = $derived(kind === 'slip' ? shownAs('height', units) : { unit: 'm/s', factor: 1, digits: 2 })
  // What would help: counts and tempos are taken here, measures of the rig set in one go.
  const cordsToo = $derived(a?.change.filter((c) => c.what.includes('.')) ?? [])
  const drillable = $derived(kind === 'speed' && !!saved)
  const countLabel = $derived(kind === 'speed' ? 'Rebounds to the next strike' : kind === 'slip' ? 'Slip every … pass' : 'Strike every … return')
</script>

{#snippet measure(f: Measure)}
  {@const s = shownAs(f.of, units)}
  <Field label={f.label} value={value(f.field)} min={f.min} max={f.max} step={f.step} {...s} problem={of(f.field)} note={f.note ?? ''} onchange={(v) => set([{ field: f.field, to: v }])} />
{/snippet}

<svelte:head><title>{name || 'New bag'} · Melodromos</title></svelte:head>
{#if trouble}
  <Notice title="This bag could not be read" text={trouble} again={() => load(params.id, new URLSearchParams(router.querystring ?? ''))}><a class="button" href="#/bags">To the bags</a></Notice>
{:else if reading || (!saved && !isNew)}
  <Notice title="Reading the bag…" />
{:else}
  <div class="flex flex-wrap items-end gap-x-4 gap-y-2">
    <label class="block min-w-48 flex-1 sm:max-w-72"><span class="label">{isNew ? 'Name of the bag' : kindNames[kind]}</span><input class="input mt-1" aria-label="Name of the bag" maxlength="120" bind:value={name} placeholder="What you call it" /></label>
    {#if (people.data?.length ?? 0) > 0}
      <label class="block min-w-48 flex-1 sm:max-w-72"><span class="label">Hung for</span>
        <select class="input mt-1" value={traineeId} onchange={(e) => { traineeId = e.currentTarget.value; localStorage.setItem('bench-for', traineeId) }}>
          {#each people.data ?? [] as t (t.id)}<option value={t.id}>{t.name}{t.height ? `, ${length(t.height, units)}` : ', height not entered'}</option>{/each}
        </select></label>
    {/if}
    <div class="ml-auto flex flex-wrap gap-2">
      {#if saved && trainee}<a class="button max-sm:!hidden" href="#/cards/{params.id}/{traineeId}">Setting card</a>{/if}
      {#if !isNew}<button class="button" disabled={!changed} onclick={() => saved && take(saved)}>Put back</button>{/if}
      <button class="button main" disabled={!changed} onclick={save}>{isNew ? 'Save this bag' : 'Save measures'}</button>
    </div>
  </div>
  {#if isNew}
    <Choice label="Kind" value={kind} options={Object.entries(kindNames).map(([v, text]) => ({ value: v as Doc['kind'], text }))}
      onchange={(k) => begin(everyday[k].doc, everyday[k].place, name in everyday || Object.values(kindNames).includes(name) || !name.trim() ? kindNames[k] : name)} />
  {/if}
  {#if problem}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}

  {#if a}
    <h1 class="mt-4 min-h-[2.3em] text-2xl leading-tight sm:text-[1.7rem] font-extrabold tracking-tight text-wrap" aria-live="polite">{a.sentence}</h1>
    {#if a.change.length > 0}
      <div class="mt-2 flex flex-wrap gap-2" aria-label="What would help">
        {#each a.change.filter((c) => !c.what.includes('.')) as c (c.what)}
          {#if c.what === 'rebounds'}<button class="button" title={c.reason} onclick={() => (rebounds = c.to)}>Count {c.to}</button>
          {:else if c.what === 'tempo'}<button class="button" title={c.reason} onclick={() => (wanted = { tempo: c.to })}>Take {c.to} a minute</button>
          {:else if c.what === 'launch'}<button class="button" title={c.reason} onclick={() => (wanted = { launch: c.to })}>Strike it softer</button>
          {:else if c.what === 'bagLength'}<span class="self-center text-sm text-soft">or hang a bag of {length(c.to, units)}: {c.reason}</span>
          {:else}<button class="button" title={c.reason} onclick={() => set([{ field: c.what, to: c.to }])}>{labelOf(c.what)}: {valueOf(c.what, c.to, units)}</button>{/if}
        {/each}
        {#if cordsToo.length > 0}<button class="button" title={cordsToo[0]!.reason} onclick={() => set(cordsToo.map((c) => ({ field: c.what, to: c.to })))}>{a.tempo > a.fastest ? 'Wind both cords up' : 'Let both cords out'}</button>{/if}
      </div>
    {/if}
  {/if}
  {#if whatIf.refusal && !of('launch')}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{whatIf.refusal.message}</p>{/if}

  <div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-[25rem_1fr] lg:grid-rows-[auto_1fr]">
    <section class="min-w-0" aria-label="As it hangs">
      {#if a}
        <div class="bg-sheet"><SideView side={a.side} setUp={a.setUp} body={a.body} stand={a.setUp.stand} {units} onset={set} read={value} /></div>
        <p class="mt-1 text-sm text-soft">To scale. Drag a knob, or move it with the arrow keys.</p>
      {/if}
    </section>
    {#if a}
      <section class="min-w-0 lg:col-start-2 lg:row-span-2 lg:row-start-1" aria-label="What it does">
        <div class="bg-sheet py-2">
          <SwingTrace cycle={a.cycle} {strikes} tempo={a.shown} from={kind === 'slip' ? -0.25 : -Math.min(0.3 * a.cycle.return, 0.4)} to={span} height={290} />
        </div>
        {#if !a.feasible}<p class="mt-1 text-sm text-soft">Drawn at {tempoOf(a.shown)} a minute, the nearest within reach.</p>{/if}

        <div class="mt-4 grid gap-x-8 gap-y-6 xl:grid-cols-2">
          <div>
            <Choice label={countLabel} value={rebounds} options={[1, 2, 3, 4, 5].map((n) => ({ value: n, text: String(n) }))} onchange={(n) => (rebounds = n)}
              note={kind !== 'speed' ? '' : behind ? 'An even count brings the bag to a hand behind it.' : 'An odd count brings the bag back to the front.'} />
            <Field label="Tempo" value={wanted.tempo ?? a.tempo} min={5} max={700} step={1} unit="/min" onchange={(v) => (wanted = { tempo: v })} problem={of('tempo')} note={`Within reach with this count: ${range(a.slowest, a.fastest)}.`} />
            <Field label={kind === 'slip' ? 'Drawn back' : 'Strike: speed of the bag after it'} value={wanted.launch ?? a.launch ?? a.drawn} min={kind === 'slip' ? 0.05 : 0.1} max={Math.max(0.5, a.most)} step={kind === 'slip' ? 0.01 : 0.05} {...pulls} problem={of('launch') || of('pull')} onchange={(v) => (wanted = { launch: v })} note={kind === 'speed' ? `Softer than ${a.least.toFixed(2)} m/s it does not reach the board.` : ''} />
            {#if kind === 'speed'}<Field label="Strike angle" value={strikeAngle} min={5} max={60} step={1} unit="°" problem={of('strikeAngle')} onchange={(v) => (strikeAngle = v)} note="On the far side, before it hangs straight. 25° is assumed." />{/if}
            <dl class="grid grid-cols-2 gap-x-6 gap-y-3 py-2">
              {#if kind === 'slip'}
                <div><dt class="label">Time to begin the {place.plane === 'across' ? 'roll' : 'slip'}</dt><dd class="figure text-4xl">{a.cycle.passes[0] && a.cycle.passes[0].window > 0 ? ms(a.cycle.passes[0].window) : 'none'}</dd></div>
                <div><dt class="label">Speed at the first pass</dt><dd class="figure text-4xl">{speed(a.cycle.speed, units)}</dd></div>
              {:else}
                <div><dt class="label">Window to strike in</dt><dd class="figure text-4xl">{a.window ? ms(a.window) : '–'}</dd></div>
                <div><dt class="label">Fist speed, {a.effort || 'none reaches it'}</dt><dd class="figure text-4xl">{a.fist ? speed(a.fist, units) : '–'}</dd></div>
              {/if}
            </dl>
            <TempoTable rows={a.tempos} tempo={a.tempo} {rebounds} caption={kind === 'speed' ? 'Tempos within reach by rebound count, a minute' : kind === 'slip' ? 'Tempos within reach by passes let by, a minute' : 'Tempos within reach by return, a minute'} onchoose={(n) => (rebounds = n)} />
            {#if drillable}<button class="button mt-4" disabled={!a.feasible || changed || behind} onclick={() => push(`/drills/new?rig=${params.id}&rebounds=${rebounds}&tempo=${Math.round(a.tempo)}&angle=${strikeAngle}`)}>Make a drill of this</button>
              {#if changed}<p class="mt-1 text-sm text-soft">Save the measures first.</p>{/if}{/if}
          </div>
          <div class="min-w-0">
            <h2 class="font-bold">Checks</h2>
            <Checks findings={a.findings} {units} onset={set} />
            {#if a.loads.length > 0}
              <p class="mt-2 text-sm text-soft">{#each a.loads as l, i (l.part)}{i > 0 ? '; ' : ''}{i > 0 ? parts[l.part]!.toLowerCase() : parts[l.part]}: {l.static > 0 ? `${figure(l.static, 'N', units)} at rest, ` : ''}{figure(l.peak, 'N', units)} at the most{/each}. Modelled.</p>
            {/if}
          </div>
          {#if a.cords}<div class="seam pt-3 xl:col-span-2"><h2 class="mb-1 font-bold">Tension</h2><Cords cords={a.cords} onwind={wind} /></div>{/if}
          <div class="seam min-w-0 pt-3">
            <h2 class="mb-1 font-bold">Hung for {trainee?.name ?? 'somebody'}</h2>
            <SetUp setUp={a.setUp} hung={a.hung} {kind} {units} name={trainee?.name ?? ''} onset={set} />
            {#if kind === 'slip' && trainee?.height}<div class="mt-4"><SharedAnchor shared={a.shared} people={people.data ?? []} chosen={traineeId} {other} {units} onchoose={(id) => (other = id)} /></div>{/if}
          </div>
          <div class="seam min-w-0 pt-3">
            <h2 class="mb-1 font-bold">Calibration</h2>
            {#if saved?.fromRounds && !changed}<FromRounds rig={saved} offer={saved.fromRounds} onkept={take} />{/if}
            {#if saved}<Calibrate rig={saved} dirty={changed} {units} onkept={take} />{:else}<p class="text-soft">Save this bag; then a minute of measuring replaces what is assumed.</p>{/if}
          </div>
        </div>
        <p class="seam mt-6 pt-3 text-sm text-soft">Measures are yours; tempos, windows, speeds and loads are modelled from them. The fist’s mass{kind === 'speed' ? ', the strike angle' : ''} and whatever stands as assumed hold until measured. Heights of a body that was not measured follow Drillis &amp; Contini (1966).</p>
      </section>
    {/if}
    <section class="min-w-0" aria-label="Measures">
      <h2 class="seam mt-4 pt-3 font-bold">Measures</h2>
      {#if doc.kind === 'hanging'}
        <Choice label="Shape" value={doc.shape ?? 'cylinder'} options={[{ value: 'cylinder', text: 'Straight' }, { value: 'ball', text: 'Ball' }]}
          onchange={(shape) => { const { length: _, ...rest } = $state.snapshot(doc) as Schemas['RigDocHanging']; doc = shape === 'ball' ? { ...rest, shape } : { ...rest, shape, length: 1.2 } }} />
      {/if}
      {#each measuresOf(doc) as f (f.field)}{@render measure(f)}{/each}
      <h2 class="seam mt-4 pt-3 font-bold">Place and use</h2>
      {#each choices[kind] as c (c.field)}
        <Choice label={c.label} value={String(place[c.field] || c.options[0]!.value)} options={c.options} onchange={(v) => choose({ [c.field]: v })} />
      {/each}
      {#if kind === 'hanging'}<Choice label="Kicks and knees are trained" value={place.kicks ? 'yes' : 'no'} options={[{ value: 'no', text: 'No' }, { value: 'yes', text: 'Yes' }]} onchange={(v) => choose({ kicks: v === 'yes' })} />{/if}
      {#each placeOf(doc) as f (f.field)}{@render measure(f)}{/each}
      {#if a}<div class="mt-6"><Caution>{a.caution}</Caution></div>{/if}
    </section>
  </div>
{/if}
