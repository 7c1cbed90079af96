<!-- What somebody has to be spared: what holds drills back, until somebody who is named lifts it. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { shortDay } from '../format'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'
  import Problem from '../ui/Problem.svelte'

  type Caution = Schemas['Caution']
  type Props = { trainee: Schemas['Trainee']; cautions: Caution[]; signs: Schemas['Sign'][] }
  let { trainee, cautions, signs }: Props = $props()
  const act = new Act(useQueryClient())
  const standing = $derived(cautions.filter((c) => !c.liftedAt))
  const lifted = $derived(cautions.find((c) => c.liftedAt))
  const sign = (kind: Caution['kind']) => signs.find((s) => s.kind === kind)!
  let adding = $state(false)
  let kind = $state<Caution['kind']>('wrist')
  let note = $state('')
  let lifting = $state('')
  let by = $state('')
  const told = (c: Caution) =>
    ` since ${shortDay(c.at!, session.zone)}, set by ${c.setBy}${c.note ? `: ${c.note}` : ''}. ${sign(c.kind).does}`

  async function lift(e: SubmitEvent) {
    e.preventDefault()
    const at = { params: { path: { id: lifting } }, body: { by } }
    await act.do('lift', () => ask(api.POST('/api/cautions/{id}/lift', at)), {
      said: 'Lifted.',
      unchanged: 'The caution stays.',
    })
    if (!act.problem) lifting = by = ''
  }
  async function hold(e: SubmitEvent) {
    e.preventDefault()
    const at = { params: { path: { id: trainee.id } }, body: { kind, note } as Caution }
    const work = () => ask(api.POST('/api/trainees/{id}/cautions', at))
    if (
      !(await act.do('hold', work, {
        said: 'The caution is set. What it rules out is held back.',
        unchanged: 'Nothing was kept.',
      }))
    )
      return
    adding = false
    note = ''
  }
</script>

<section class="mt-6" aria-label="Cautions for {trainee.name}">
  {#each standing as c (c.id)}
    <div class="mb-2 border-l-4 border-ink py-1 pl-3">
      <p><strong>{sign(c.kind).name}</strong>{told(c)}</p>
      {#if lifting === c.id}
        <form class="mt-1 flex flex-wrap items-end gap-2" onsubmit={lift}>
          <label class="block">
            <span class="label">Lifted by</span>
            <input
              class="input mt-1 !w-56"
              required
              maxlength="120"
              placeholder="a doctor, a physiotherapist"
              bind:value={by} />
          </label>
          <Button main disabled={!!act.busy}>Lift it</Button>
          <Button type="button" onclick={() => (lifting = '')}>Cancel</Button>
        </form>
      {:else}
        <Button small class="mt-1" onclick={() => (lifting = c.id)}>Lift it…</Button>
      {/if}
    </div>
  {/each}
  <Problem text={act.problem} />
  {#if adding}
    <form class="max-w-xl border-l-4 border-rope pl-3" onsubmit={hold}>
      <Choice
        label="What hurts?"
        value={kind}
        options={signs.map((s) => ({ value: s.kind, text: s.name }))}
        onchange={(v) => (kind = v)}
        note={sign(kind).does} />
      <label class="block">
        <span class="label">Note</span>
        <input class="input mt-1" maxlength="400" bind:value={note} />
      </label>
      <div class="mt-2 flex gap-2">
        <Button main disabled={!!act.busy}>Set the caution</Button>
        <Button type="button" onclick={() => (adding = false)}>Cancel</Button>
      </div>
    </form>
  {:else}
    <p class="text-sm text-soft">
      {lifted ? `${sign(lifted.kind).name}, lifted by ${lifted.liftedBy}. ` : ''}
      <button class="min-h-6 underline" onclick={() => (adding = true)}>Something hurts?</button>
      A caution for a wrist, a shoulder or a knock to the head holds drills back until it is lifted.
    </p>
  {/if}
</section>
