<!-- A person is archived, which can be undone, or erased for good, which is asked twice: by the name, and by the coach's own password. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { push } from 'svelte-spa-router'
  import { Act } from '../act.svelte'
  import { changes } from '../changes.svelte'
  import { drafts } from '../drafts/drafts.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { count } from '../format'
  import Button from '../ui/Button.svelte'
  import Over from '../ui/Over.svelte'
  import Problem from '../ui/Problem.svelte'
  import Secret from '../ui/Secret.svelte'

  let { person }: { person: Schemas['Trainee'] } = $props()
  const act = new Act(useQueryClient())
  let erasing = $state(false)
  let name = $state('')
  let password = $state('')
  const path = $derived({ params: { path: { id: person.id } } })
  const bringBack = () => ask(api.POST('/api/trainees/{id}/restore', path))
  const stays = (rounds: number) => `${count(rounds, 'round')} ${rounds === 1 ? 'stays' : 'stay'}`

  // Where else their name stands, or may: a part of it may be a word like any other, so that is the coach's to say.
  const mentions = createQuery(() => ({
    queryKey: ['mentions', person.id],
    enabled: erasing,
    queryFn: () => ask(api.GET('/api/trainees/{id}/mentions', path)),
  }))
  const sure = $derived(mentions.data?.filter((m) => m.sure) ?? [])
  const doubtful = $derived(mentions.data?.filter((m) => !m.sure && !m.unread) ?? [])
  const unread = $derived(mentions.data?.filter((m) => m.unread) ?? [])
  let ticked = $state<Record<string, boolean>>({})
  const takes = (m: Schemas['Mention']) => ticked[m.key] ?? m.alike

  const archive = () =>
    act.do(
      'archive',
      async () => {
        await ask(api.DELETE('/api/trainees/{id}', path))
        void push('/people')
      },
      { said: `${person.name} is archived; their rounds stay in the log.`, undo: bringBack },
    )
  async function erase(e: SubmitEvent) {
    e.preventDefault()
    const body = { name, password, texts: doubtful.filter(takes).map((m) => m.key) }
    const gone = await act.do('erase', () => ask(api.POST('/api/trainees/{id}/erase', { ...path, body })), {
      said: ({ rounds, left }) =>
        `${person.name} is erased. ${stays(rounds)} in the log as counts, without a name.` +
        (left.length > 0 ? ` ${count(left.length, 'text')} may still name them.` : ''),
      unchanged: 'Nothing was erased.',
    })
    if (!gone) return
    drafts.drop('people', person.id)
    changes.clear() // what could be taken back may be of them
    void push('/people')
  }
</script>

<div class="mt-6 flex flex-wrap items-center gap-2 border-t border-rope pt-3">
  {#if person.archived}
    <Button disabled={act.busy !== ''} onclick={() => act.do('back', bringBack, { said: `${person.name} is back.` })}
      >Bring back</Button>
  {:else}
    <Button disabled={act.busy !== ''} onclick={archive}>Archive</Button>
  {/if}
  <Button quiet onclick={() => (erasing = true)}>Erase for good</Button>
</div>

<Over bind:open={erasing} title="Erase {person.name} for good">
  <p class="mt-2">
    What was measured of them, their cautions, what was decided, the drills they have and every hit of their rounds go.
    The log keeps the rounds as counts, without a name. It cannot be undone, and a backup that was made before still has
    them.
  </p>
  {#if sure.length > 0}
    <p class="mt-2">
      Their name is taken out of {count(sure.length, 'other text')}: {sure.map((m) => m.where).join(', ')}.
    </p>
  {/if}
  {#if doubtful.length > 0}
    <fieldset class="mt-3">
      <legend class="font-semibold">Is this them? Ticked, the name is taken out; the others stay as they are.</legend>
      {#each doubtful as m (m.key)}
        <label class="flex items-start gap-2 py-1">
          <input
            type="checkbox"
            class="mt-1 size-5 shrink-0 accent-ink"
            checked={takes(m)}
            onchange={(e) => (ticked[m.key] = e.currentTarget.checked)} />
          <span class="min-w-0 break-words">{m.text} <span class="text-sm text-soft">{m.where}</span></span>
        </label>
      {/each}
    </fieldset>
  {/if}
  {#if unread.length > 0}
    <p class="mt-3">
      Could not be read, and may still name them: {unread.map((m) => `${m.text} (${m.where})`).join(', ')}.
    </p>
  {/if}
  <form class="mt-3" onsubmit={erase}>
    <label class="block"
      ><span class="label">Type their name to confirm</span><input
        class="input mt-1"
        required
        autocomplete="off"
        bind:value={name} /></label>
    <Secret label="Your password" class="mt-2" bind:value={password} />
    <Problem text={act.problem} />
    <div class="mt-4 flex gap-2">
      <Button main>Erase for good</Button><Dialog.Close class="button" type="button">Cancel</Dialog.Close>
    </div>
  </form>
</Over>
