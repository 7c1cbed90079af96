<!-- A setting card, printed on one page and pinned beside the bag: how this rig is set for this person. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../lib/api/client'
  import { isSet, kinds, labelOf, parts, valueOf } from '../lib/bench/kinds.svelte'
  import SideView from '../lib/bench/SideView.svelte'
  import { about, figure, ms, speed, range } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { rig: string; trainee: string } } = $props()
  const card = createQuery(() => ({
    queryKey: ['card', params.rig, params.trainee],
    queryFn: () =>
      ask(api.GET('/api/rigs/{id}/card/{trainee}', { params: { path: { id: params.rig, trainee: params.trainee } } })),
  }))
  const c = $derived(card.data)
  const units = $derived(session.units)
  const southpaw = $derived(c?.trainee.stance === 'southpaw')
  const today = new Intl.DateTimeFormat('en-GB', { timeZone: session.zone, dateStyle: 'long' }).format(new Date())
  const uses: Record<string, string> = {
    swing: 'for the swing',
    punches: 'for hooks',
    stepBack: 'for a step back',
    circling: 'to circle it',
  }
</script>

<svelte:head><title>{c ? `${c.rig.name} for ${c.trainee.name}` : 'Setting card'} · Melodromos</title></svelte:head>
{#if card.isError}
  <Notice title="This card could not be made" text={card.error.message} again={() => card.refetch()}
    ><Button href="#/bags/{params.rig}">Set up</Button></Notice>
{:else if !c}
  <Notice title="Reading…" />
{:else}
  {@const s = c.hung.setUp}
  <div class="mb-4 flex gap-2 print:hidden">
    <Button main onclick={() => print()}>Print this card</Button>
    <Button href="#/bags/{params.rig}?trainee={params.trainee}">Set up</Button>
  </div>
  <article
    class="card full mx-auto grid max-w-[52rem] grid-cols-[1fr_304px] gap-x-6 border-2 border-ink bg-sheet p-6 max-md:grid-cols-1">
    <header class="col-span-full flex flex-wrap items-baseline justify-between gap-x-6 border-b-2 border-ink pb-2">
      <h1 class="text-3xl font-extrabold">{c.trainee.name}</h1>
      <p class="text-xl font-bold">{c.rig.name}, {kinds.of(c.rig.doc.kind).name}</p>
    </header>
    <div class="min-w-0 pt-3">
      {#if s.needs}
        <p>
          {s.needs === 'height'
            ? `Enter the height of ${c.trainee.name} first.`
            : `Measure first: ${labelOf(s.needs).toLowerCase()}.`}
        </p>
      {:else}
        <p class="label">The {s.point} above the floor</p>
        <p class="figure text-6xl">
          {s.high - s.low < 0.07
            ? about((s.low + s.high) / 2, units)
            : `${about(s.low, units)} – ${about(s.high, units)}`}
        </p>
        <p class="text-sm text-soft">{s.between}</p>
        <h2 class="label mt-4">Set</h2>
        <dl class="grid grid-cols-[1fr_auto] gap-x-4">
          {#each c.set.filter((m) => isSet(m.field)) as m (m.field)}<dt class="border-b border-rope">
              {labelOf(m.field)}
            </dt>
            <dd class="border-b border-rope text-right font-bold">{valueOf(m.field, m.to, units)}</dd>{/each}
        </dl>
        {#if s.targets.length > 0}
          <h2 class="label mt-4">Tape two marks</h2>
          <dl class="grid grid-cols-[1fr_auto_auto] gap-x-4">
            {#each s.targets as t (t.name)}<dt class="border-b border-rope">
                {t.name === 'head' ? 'Head shots, chin height' : 'Body shots'}
              </dt>
              <dd class="border-b border-rope text-right font-bold">{about(t.height, units)}</dd>
              <dd class="border-b border-rope text-right text-soft">{about(t.down, units)} from the top</dd>{/each}
          </dl>
          <p class="text-sm text-soft">As on an opponent of the same height. A punch between the marks is a miss.</p>
        {/if}
        <h2 class="label mt-4">Stand</h2>
        <p>
          {southpaw ? 'Southpaw: right hand and foot lead.' : 'Orthodox: left hand and foot lead.'}
          {s.stand > 0.05 ? `Head ${about(s.stand, units)} from the bag’s middle.` : 'Head under the anchor.'}
        </p>
        {#if s.conflict?.uneven != null}<p class="mt-1 text-sm">
            Not midway between its anchors: it comes back {about(Math.abs(s.conflict.uneven), units)}
            {s.conflict.uneven > 0 ? 'higher' : 'lower'} than struck.
          </p>{/if}
      {/if}
      <h2 class="label mt-4">Set up like this</h2>
      <p class="text-lg font-bold">{c.strike}</p>
      <p class="text-sm">
        {#if c.hung.cycle.passes.length > 0}{#if c.hung.cycle.passes[0]!.window > 0}{ms(c.hung.cycle.passes[0]!.window)} to
            begin the move.{:else}It cannot be slipped at this pull.{/if}
        {:else if c.hung.window}Window {ms(c.hung.window)}{c.hung.fist
            ? `; fist ${speed(c.hung.fist, units)}, ${c.hung.effort}`
            : ''}.{/if} Modelled.
      </p>
      <table class="mt-2 w-full text-left text-sm">
        <thead class="text-soft"
          ><tr
            ><th class="font-semibold">{c.rig.doc.kind === 'speed' ? 'Rebounds' : 'Return'}</th><th
              class="text-right font-semibold">tempos allowed, a minute</th
            ></tr
          ></thead>
        <tbody
          >{#each c.hung.tempos.slice(0, 5) as t (t.rebounds)}<tr
              ><td>{t.rebounds}{t.face === 'behind' ? ', from behind' : ''}</td><td class="text-right"
                >{range(t.slowest, t.fastest)}</td
              ></tr
            >{/each}</tbody>
      </table>
      <h2 class="label mt-4">Room</h2>
      <p class="text-sm">{s.room.map((r) => `${about(r.need, units)} ${r.where} ${uses[r.for]}`).join('; ')}.</p>
      {#each c.hung.loads as l (l.part)}<p class="text-sm">
          {parts[l.part]}: {figure(l.peak, 'N', units)} at the most.
        </p>{/each}
    </div>
    <div class="w-full max-w-[304px] min-w-0 pt-3">
      <SideView side={c.hung.side} setUp={s} body={c.hung.body} stand={s.stand} {units} tallest={430} still />
    </div>
    {#each c.hung.findings.filter((f) => f.weight === 'wrong') as f (f.code)}<p
        class="col-span-full mt-2 border-l-4 border-ink pl-3 font-semibold">
        {f.title}. {f.remedy}.
      </p>{/each}
    <footer class="col-span-full mt-4 border-t-2 border-dashed border-rope pt-2 text-sm text-soft">
      <p>{c.caution}</p>
      <p class="mt-1">
        {session.me?.gym}, {today}. Bag as measured on {new Intl.DateTimeFormat('en-GB', {
          timeZone: session.zone,
          dateStyle: 'long',
        }).format(new Date(c.rig.measuredAt!))}.
      </p>
    </footer>
  </article>
{/if}

<style>
  @media print {
    .card {
      border: 0;
      padding: 0;
      max-width: none;
      grid-template-columns: 1fr 304px; /* of the picture, which keeps its size */
    }
  }
</style>
