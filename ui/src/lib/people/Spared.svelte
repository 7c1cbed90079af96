<!-- What somebody has to be spared: what holds drills back, until somebody who is named lifts it. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../api/client'
  import { shortDay } from '../format'
  import { session } from '../session.svelte'
  import Choice from '../ui/Choice.svelte'

  type Props = { trainee: Schemas['Trainee']; cautions: Schemas['Caution'][] }
  let { trainee, cautions }: Props = $props()
  const client = useQueryClient()
  const standing = $derived(cautions.filter((c) => !c.liftedAt))
  const lifted = $derived(cautions.filter((c) => c.liftedAt))
  let adding = $state(false)
  let kind = $state<Schemas['Caution']['kind']>('wrist')
  let note = $state('')
  let lifting = $state('')
  let by = $state('')
  const what = { wrist: 'Sore wrist', shoulder: 'Sore shoulder', head: 'Knock to the head' }
  const does = {
    wrist: 'No heavy bag, and nothing over about half power.',
    shoulder: 'Short at the speed bag, and no hard hooks or uppercuts.',
    head: 'Nothing more that day, and see a doctor; nothing here until it is lifted.',
  }

  async function settle(doing: Promise<unknown>, said: string) {
    try {
      await doing
      await client.invalidateQueries()
      toast(said)
      adding = false
      lifting = note = by = ''
    } catch (e) {
      toast((e as Error).message)
    }
  }
</script>

<section class="mt-6" aria-label="What {trainee.name} is spared">
  {#each standing as c (c.id)}
    <div class="mb-2 border-l-4 border-ink py-1 pl-3">
      <p>
        <strong>{what[c.kind]}</strong> since {shortDay(c.at!, session.zone)}, set by {c.setBy}{c.note
          ? `: ${c.note}`
          : ''}. {does[c.kind]}
      </p>
      {#if lifting === c.id}
        <form
          class="mt-1 flex flex-wrap items-end gap-2"
          onsubmit={(e) => {
            e.preventDefault()
            void settle(
              ask(api.POST('/api/cautions/{id}/lift', { params: { path: { id: c.id } }, body: { by } })),
              'Lifted.',
            )
          }}>
          <label class="block"
            ><span class="label">Lifted by</span><input
              class="input mt-1 !w-56"
              required
              maxlength="120"
              placeholder="a doctor, a physiotherapist"
              bind:value={by} /></label>
          <button class="button main">Lift it</button><button
            type="button"
            class="button"
            onclick={() => (lifting = '')}>Leave it</button>
        </form>
      {:else}<button class="button mt-1 !min-h-9 !py-0" onclick={() => (lifting = c.id)}>Lift it…</button>{/if}
    </div>
  {/each}
  {#if adding}
    <form
      class="max-w-xl border-l-4 border-rope pl-3"
      onsubmit={(e) => {
        e.preventDefault()
        void settle(
          ask(
            api.POST('/api/trainees/{id}/cautions', {
              params: { path: { id: trainee.id } },
              body: { kind, note } as Schemas['Caution'],
            }),
          ),
          'Kept. What it bars is held back.',
        )
      }}>
      <Choice
        label="What is it"
        value={kind}
        options={Object.entries(what).map(([value, text]) => ({ value: value as typeof kind, text }))}
        onchange={(v) => (kind = v)}
        note={does[kind]} />
      <label class="block"
        ><span class="label">Note</span><input class="input mt-1" maxlength="400" bind:value={note} /></label>
      <div class="mt-2 flex gap-2">
        <button class="button main">Hold it back</button><button
          type="button"
          class="button"
          onclick={() => (adding = false)}>Leave it</button>
      </div>
    </form>
  {:else}
    <p class="text-sm text-soft">
      {#if lifted[0]}{what[lifted[0].kind]}, lifted by {lifted[0].liftedBy}.{' '}{/if}<button
        class="underline"
        onclick={() => (adding = true)}>Something hurts?</button> A wrist, a shoulder or a knock to the head holds drills
      back until it is lifted.
    </p>
  {/if}
</section>
