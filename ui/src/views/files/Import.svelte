<!-- Serves the coach at the desk: a file brought in, first only to see what would change. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, Refusal, type Schemas } from '../../lib/api/client'
  import { kinds } from '../../lib/bench/kinds.svelte'
  import Files from '../../lib/files/Files.svelte'
  import { gymFiles } from '../../lib/files/items'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Changes from './Changes.svelte'

  type Told = Schemas['Imported']
  type Kind = NonNullable<Schemas['RigDoc']['kind']>
  const client = useQueryClient()
  let file = $state.raw<File | null>(null)
  let over = $state(false)
  let kind = $state<Kind>('hanging')
  let track = $state('')
  let told = $state.raw<Told | null>(null)
  let problem = $state('')
  let busy = $state(false)
  let bringing = $state(false)
  let above = $state(false) // a file is held above the page
  let asked = 0
  let going: AbortController | null = null

  const holds: Record<Told['what'], string> = {
    gym: 'a gym',
    bag: 'a bag',
    drill: 'a drill',
    session: 'a session',
    log: 'rounds of a log',
    hits: 'hits of a log',
    rhythm: 'a rhythm',
  }
  const would = $derived((told?.counts.added ?? 0) + (told?.counts.changed ?? 0))
  const done = $derived(told !== null && !told.dry)
  const drill = $derived(told?.changes.find((c) => c.what === 'drill' && c.id)?.id ?? '')
  const place = $derived.by(() => {
    const first = told?.changes.find((c) => c.id)?.id ?? ''
    switch (told?.what) {
      case 'bag':
        return first ? { to: `#/bags/${first}`, text: 'To the bag' } : { to: '#/bags', text: 'To the bags' }
      case 'session':
        return first
          ? { to: `#/sessions/${first}`, text: 'To the session' }
          : { to: '#/sessions', text: 'To the sessions' }
      case 'log':
      case 'hits':
        return { to: '#/log', text: 'To the log' }
      case 'gym':
        return { to: '#/people', text: 'To the people' }
      default:
        return { to: '#/drills', text: 'To the drills' }
    }
  })

  async function send(dry: boolean) {
    if (!file) return
    const mine = ++asked
    going?.abort()
    going = new AbortController()
    busy = true
    bringing = !dry
    problem = ''
    const query = { name: file.name, dry, over, kind: kind as 'hanging', ...(track ? { track } : {}) }
    try {
      const answer = await ask(
        api.POST('/api/import', {
          params: { query },
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as BodyInit,
          headers: { 'Content-Type': 'application/octet-stream' },
          signal: going.signal,
        }),
      )
      if (mine !== asked) return
      told = answer
      track = answer.track
      if (!dry) await client.invalidateQueries()
    } catch (e) {
      if (mine !== asked) return
      told = null
      const unknown = !dry && e instanceof Refusal && e.status === 0
      problem = `${(e as Error).message} ${unknown ? 'Whether it was brought in is not known: choose the file again to see.' : 'Nothing was brought in.'}`
    } finally {
      if (mine === asked) busy = false
    }
  }
  /** Stops what is under way, then looks what of it holds: it may have been done by then. */
  function stop() {
    going?.abort()
    void send(true)
  }
  function take(chosen: File | null | undefined) {
    if (!chosen) return
    file = chosen
    told = null
    track = ''
    over = false
    void send(true)
  }
  function drop(e: DragEvent) {
    e.preventDefault()
    above = false
    take(e.dataTransfer?.files[0])
  }
</script>

<svelte:head><title>Bring in a file · Melodromos</title></svelte:head>
<svelte:window
  ondragover={(e) => {
    e.preventDefault()
    above = true
  }}
  ondragleave={(e) => e.relatedTarget === null && (above = false)}
  ondrop={drop} />
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">Bring in a file</h1>
  <Button quiet href="#/gym">To the gym</Button>
</div>
<p class="mt-1 max-w-prose text-soft">
  A gym, a bag, a drill or a session as a document; a log or its hits as a table; a rhythm as MIDI. You first see what
  would change, and nothing is kept until you say so.
</p>
<label
  class="mt-4 flex min-h-24 max-w-3xl cursor-pointer flex-wrap items-center gap-x-4 gap-y-2 border-2 border-dashed border-edge p-4 has-[:focus-visible]:outline-[3px] has-[:focus-visible]:outline-offset-2 has-[:focus-visible]:outline-blue {above
    ? 'bg-shade'
    : ''}">
  <input
    type="file"
    class="sr-only"
    accept=".json,.csv,.mid,.midi,application/json,text/csv,audio/midi"
    onchange={(e) => {
      take(e.currentTarget.files?.[0])
      e.currentTarget.value = ''
    }} />
  <span class="button main" aria-hidden="true">Choose a file</span>
  <span
    >{file ? '' : 'or drop one here'}<b>{file?.name ?? ''}</b><span class="sr-only">{file ? '' : 'Choose a file'}</span
    ></span>
</label>
<Problem text={problem} />
{#if file && (told?.what === 'rhythm' || (problem && /midi?$/i.test(file.name))) && !done}
  <div class="mt-4 flex flex-wrap items-end gap-x-6 gap-y-2">
    <Choice
      label="For which kind of bag"
      value={kind}
      options={kinds.all.filter((k) => !k.slipped).map((k) => ({ value: k.kind as Kind, text: k.name }))}
      onchange={(v) => {
        kind = v
        void send(true)
      }} />
    {#if told && told.tracks.length > 1}
      <label
        ><span class="label">Track whose notes are the strikes</span>
        <select class="input mt-1" bind:value={track} onchange={() => send(true)}>
          {#each told.tracks as t (t)}<option value={t}>{t || 'without a name'}</option>{/each}
        </select></label>
    {/if}
  </div>
{/if}
{#if busy && (!told || bringing)}
  <p class="mt-4 flex items-center gap-3 text-lg font-bold" role="status">
    {bringing ? 'Bringing it in…' : 'Reading the file…'}
    {#if bringing}<Button small onclick={stop}>Stop</Button>{/if}
  </p>
{/if}
{#if told && file}
  <section class="mt-6" aria-labelledby="told" aria-busy={busy}>
    <p class="label">{file.name} holds {holds[told.what]}.{done ? '' : ' Nothing is changed yet.'}</p>
    <h2 id="told" class="max-w-3xl text-2xl font-extrabold" aria-live="polite">
      {done ? 'Brought in. ' : ''}{told.told}
    </h2>
    {#each told.said as line (line)}<p class="mt-1 max-w-prose">{line}</p>{/each}
    {#if !done && (told.counts.differs > 0 || over)}
      <Choice
        label="What differs here"
        value={over ? 'file' : 'here'}
        options={[
          { value: 'here', text: 'Stays as it is here' },
          { value: 'file', text: 'Becomes what the file has' },
        ]}
        onchange={(v) => {
          over = v === 'file'
          void send(true)
        }} />
      {#if over}
        <p class="mt-1 flex max-w-prose flex-wrap items-center gap-3 border-l-4 border-ink pl-3">
          <span class="flex-1">That cannot be taken back. Save the gym as it is now first.</span>
          <Files of="the gym as it is" items={gymFiles} />
        </p>
      {/if}
    {/if}
    <div class="mt-4 flex flex-wrap gap-2">
      {#if done}
        {#if drill && (told.what === 'rhythm' || told.what === 'drill')}
          <Button main href="#/compose/new?drill={drill}">Look at the drill</Button>
        {/if}
        <Button href={place.to}>{place.text}</Button>
        <Button
          quiet
          onclick={() => {
            file = null
            told = null
          }}>Bring in another</Button>
      {:else}
        <Button main disabled={busy || would === 0} onclick={() => send(false)}>
          {would === 0 ? 'Nothing to bring in' : 'Bring it in'}
        </Button>
        <Button
          quiet
          onclick={() => {
            file = null
            told = null
          }}>Cancel</Button>
      {/if}
    </div>
    <Changes changes={told.changes} dry={told.dry} />
  </section>
{/if}
