<!-- Serves the coach at the desk, and beside the bag with a tape measure: what this bag does as it hangs. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { push, replace } from 'svelte-spa-router'
  import { toast } from 'svelte-sonner'
  import { untrack } from 'svelte'
  import { api, ask, Refusal, type Schemas } from '../lib/api/client'
  import { inside, length, ms, speed } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import { sample } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Field from '../lib/ui/Field.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import TempoTable from '../lib/ui/TempoTable.svelte'
  import { WhatIf } from '../lib/whatif.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  type Doc = Schemas['RigDoc']

  // A new bag begins with everyday measures; they are assumed until somebody measures.
  const everyday: Doc = { kind: 'speed', bagLength: 0.23, bagDiameter: 0.15, bagMass: 0.25, swivelDrop: 0.02, restitution: 0.8, boardHeight: 1.95 }
  let saved = $state<Schemas['Rig'] | null>(null)
  let doc = $state<Doc>({ ...everyday })
  let name = $state('')
  let problem = $state('')
  let trouble = $state('')
  let rebounds = $state(3)
  let strikeAngle = $state(25)
  let wanted = $state<{ tempo?: number; launch?: number }>({})

  const whatIf = new WhatIf((q: Schemas['BenchQuestion']) => ask(api.POST('/api/bench', { body: q })))
  const a = $derived(whatIf.answer)
  const isNew = $derived(params.id === 'new')
  const behind = $derived(a?.tempos.find((t) => t.rebounds === rebounds)?.face === 'behind')
  const changed = $derived(isNew || (saved !== null && (name !== saved.name || JSON.stringify(doc) !== JSON.stringify(saved.doc))))

  $effect(() => {
    const id = params.id
    untrack(() => void load(id))
  })
  $effect(() => {
    const question = { rig: { ...doc }, rebounds, strikeAngle, ...wanted }
    if (saved || isNew) untrack(() => void whatIf.ask(question))
  })

  async function load(id: string) {
    trouble = ''
    problem = ''
    wanted = {}
    if (id === 'new') {
      saved = null
      name = 'Speed bag'
      doc = { ...everyday }
      return
    }
    try {
      take(await ask(api.GET('/api/rigs/{id}', { params: { path: { id } } })))
    } catch (e) {
      trouble = (e as Error).message
    }
  }

  function take(rig: Schemas['Rig']) {
    saved = rig
    name = rig.name
    doc = { ...rig.doc }
  }

  async function save() {
    problem = ''
    const before = saved
    try {
      if (!name.trim()) throw new Refusal(422, 'Give the bag a name.')
      const body = { id: '', name: name.trim(), version: saved?.version ?? 0, doc: { ...doc } }
      if (isNew) {
        const made = await ask(api.POST('/api/rigs', { body }))
        toast(`${made.name} is saved.`)
        await client.invalidateQueries()
        // The first bag of a gym leads on to the first drill.
        const drills = await ask(api.GET('/api/drills'))
        void replace(drills.length === 0 ? `/drills/new?rig=${made.id}` : `/bags/${made.id}`)
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
    doc = { ...before.doc }
    await save()
  }

  const set = (field: keyof Doc) => (v: number) => (doc = { ...doc, [field]: v })
  const of = (field: string) => (whatIf.refusal?.field.endsWith(`.${field}`) ? whatIf.refusal.message.replace(/^[\w.]+: /, '') : '')
  const small = $derived(session.units === 'imperial' ? { unit: 'in', factor: 1 / 0.0254, digits: 2 } : { unit: 'cm', factor: 100, digits: 1 })
  const mass = $derived(session.units === 'imperial' ? { unit: 'oz', factor: 35.274, digits: 1 } : { unit: 'g', factor: 1000, digits: 0 })
  const strikes = $derived(a ? sample(a.cycle, ['lead', 'rear']) : [])
</script>

<svelte:head><title>{name || 'New bag'} · Melodromos</title></svelte:head>
{#if trouble}
  <Notice title="This bag could not be read" text={trouble} again={() => load(params.id)}><a class="button" href="#/bags">To the bags</a></Notice>
{:else if !saved && !isNew}
  <Notice title="Reading the bag…" />
{:else}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[20rem_1fr]">
    <section class="order-2 lg:order-1" aria-label="Measures">
      <label class="block"><span class="label">Name of the bag</span><input class="input mt-1" maxlength="120" bind:value={name} placeholder="What you call it" /></label>
      <h2 class="seam mt-5 pt-3 font-bold">As it hangs</h2>
      <Field label="Length, swivel to bottom" value={doc.bagLength} min={0.12} max={0.45} step={0.005} {...small} problem={of('bagLength')} onchange={set('bagLength')} />
      <Field label="Widest diameter" value={doc.bagDiameter} min={0.08} max={0.35} step={0.005} {...small} problem={of('bagDiameter')} onchange={set('bagDiameter')} />
      <Field label="Swivel below the board" value={doc.swivelDrop} min={0} max={0.08} step={0.0025} {...small} problem={of('swivelDrop')} onchange={set('swivelDrop')} />
      <Field label="Weight" value={doc.bagMass} min={0.08} max={1.2} step={0.01} {...mass} problem={of('bagMass')} onchange={set('bagMass')} />
      <Field label="Board above the floor" value={doc.boardHeight ?? 1.95} min={1} max={2.8} step={0.01} {...small} digits={session.units === 'imperial' ? 1 : 0} problem={of('boardHeight')} onchange={set('boardHeight')}
        note={a?.bottom ? `The bag ends ${length(a.bottom, session.units)} above the floor; hang it so that this lies between chin and mouth.` : ''} />
      <Field label="Speed kept at the board" value={doc.restitution} min={0.4} max={0.95} step={0.01} unit="%" factor={100} problem={of('restitution')} onchange={set('restitution')} note="80 % is assumed; a soft or badly pumped bag keeps less." />
      {#if problem}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}
      <div class="mt-4 flex flex-wrap gap-2">
        <button class="button main" disabled={!changed} onclick={save}>{isNew ? 'Save this bag' : 'Save measures'}</button>
        {#if !isNew}<button class="button" disabled={!changed} onclick={() => saved && take(saved)}>Put back</button>{/if}
      </div>
      <div class="mt-6"><Caution>Fix the board into structure, by somebody qualified; check swivel and screws before each use. The maker's instructions and local codes come first.</Caution></div>
    </section>

    <section class="order-1 min-w-0 lg:order-2" aria-label="What it does">
      {#if a}
        <h1 class="min-h-[2.3em] text-3xl leading-tight font-extrabold tracking-tight text-balance" aria-live="polite">{a.sentence}</h1>
        {#if a.change.length > 0}
          <div class="mt-2 flex flex-wrap gap-2" aria-label="What would help">
            {#each a.change as c (c.what)}
              {#if c.what === 'rebounds'}<button class="button" title={c.reason} onclick={() => (rebounds = c.to)}>Count {c.to}</button>
              {:else if c.what === 'tempo'}<button class="button" title={c.reason} onclick={() => (wanted = { tempo: inside(c.to, a.fastest) })}>Take {inside(c.to, a.fastest)} a minute</button>
              {:else if c.what === 'bagLength'}<span class="self-center text-sm text-soft">or hang a bag of {length(c.to, session.units)}: {c.reason}</span>{/if}
            {/each}
          </div>
        {/if}
        <div class="mt-4 bg-sheet py-2">
          <SwingTrace cycle={a.cycle} {strikes} tempo={a.shown} from={-0.22} to={Math.max(0.75, a.cycle.return + 0.22)} height={340} />
        </div>
        {#if !a.feasible}<p class="mt-1 text-sm text-soft">Drawn at {inside(a.shown, a.fastest)} a minute, the nearest this bag allows.</p>{/if}

        <div class="mt-4 grid gap-x-10 gap-y-2 md:grid-cols-2">
          <div>
            <Choice label="Rebounds to the next strike" value={rebounds} options={[1, 2, 3, 4, 5].map((n) => ({ value: n, text: String(n) }))} onchange={(n) => (rebounds = n)}
              note={behind ? 'An even count brings the bag to a hand behind it.' : 'An odd count brings the bag back to the front.'} />
            <Field label="Tempo" value={wanted.tempo ?? a.tempo} min={10} max={700} step={1} unit="/min" onchange={(v) => (wanted = { tempo: v })} problem={of('tempo')} note={`This count allows ${Math.ceil(a.slowest)} to ${Math.floor(a.fastest)}.`} />
            <Field label="Strike: speed of the bag after it" value={wanted.launch ?? a.launch ?? (a.tempo > a.fastest ? 12 : a.softest)} min={0.5} max={12} step={0.05} unit="m/s" digits={2} problem={of('launch')} onchange={(v) => (wanted = { launch: v })} note={`Softer than ${a.softest.toFixed(2)} m/s it does not reach the board.`} />
            <Field label="Strike angle" value={strikeAngle} min={5} max={60} step={1} unit="°" problem={of('strikeAngle')} onchange={(v) => (strikeAngle = v)} note="On the far side, before it hangs straight. 25° is assumed." />
          </div>
          <div>
            <dl class="grid grid-cols-2 gap-x-6 gap-y-3 py-2">
              <div><dt class="label">Window to strike in</dt><dd class="figure text-4xl">{a.window ? ms(a.window) : '–'}</dd></div>
              <div><dt class="label">Fist speed, {a.effort || 'none reaches it'}</dt><dd class="figure text-4xl">{a.fist ? speed(a.fist, session.units) : '–'}</dd></div>
            </dl>
            <TempoTable rows={a.tempos} tempo={a.tempo} {rebounds} onchoose={(n) => (rebounds = n)} />
            {#if saved}<button class="button mt-4" disabled={!a.feasible || changed || behind} onclick={() => push(`/drills/new?rig=${params.id}&rebounds=${rebounds}&tempo=${Math.round(a.tempo)}&angle=${strikeAngle}`)}>Make a drill of this</button>
              {#if changed}<p class="mt-1 text-sm text-soft">Save the measures first.</p>{/if}{/if}
          </div>
        </div>
        <p class="seam mt-6 pt-3 text-sm text-soft">Measures are yours; tempos, windows and speeds are modelled from them. The fist's mass, the strike angle and the speed kept at the board are assumed until calibrated.</p>
      {/if}
      {#if whatIf.refusal && !of('launch')}
        <p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{whatIf.refusal.message}</p>
      {/if}
    </section>
  </div>
{/if}
