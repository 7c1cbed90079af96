<!-- Who coaches here: brought in by a link that a coach sends by hand, and removed with the remover's own password. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { copy } from '../../lib/copy'
  import { shortDay } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Over from '../../lib/ui/Over.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Secret from '../../lib/ui/Secret.svelte'

  type Coach = Schemas['CoachOut']
  const act = new Act(useQueryClient())
  const removing = new Act(useQueryClient())
  const coaches = createQuery(() => ({ queryKey: ['coaches'], queryFn: () => ask(api.GET('/api/coaches')) }))
  const invitations = createQuery(() => ({
    queryKey: ['invitations'],
    queryFn: () => ask(api.GET('/api/invitations')),
  }))
  let forWhom = $state('')
  let link = $state('')
  let leaves = $state<Coach | null>(null)
  let password = $state('')

  async function invite(e: SubmitEvent) {
    e.preventDefault()
    const made = await act.do('invite', () => ask(api.POST('/api/invitations', { body: { forWhom } })), {
      unchanged: 'Nobody was invited.',
    })
    if (!made) return
    link = `${location.origin}/#/join/${made.secret}`
    forWhom = ''
  }
  const withdraw = (id: string) =>
    act.do('withdraw', () => ask(api.DELETE('/api/invitations/{id}', { params: { path: { id } } })), {
      said: 'The link no longer works.',
    })
  async function remove(e: SubmitEvent) {
    e.preventDefault()
    const { id, name } = leaves!
    const at = { params: { path: { id } }, body: { password } }
    const done = await removing.do('remove', async () => (await ask(api.POST('/api/coaches/{id}/remove', at)), true), {
      said: `${name} is removed and signed out. The rounds they ran stay.`,
      unchanged: 'Nobody was removed.',
    })
    if (done) leaves = null
    password = ''
  }
</script>

<section class="seam pt-3" aria-labelledby="coaches">
  <h2 id="coaches" class="text-xl font-bold">Coaches</h2>
  <Problem text={coaches.error?.message ?? ''} />
  <ul class="mt-1">
    {#each coaches.data ?? [] as c (c.id)}
      <li class="flex items-center justify-between gap-3 border-b border-rope py-2">
        <span><b>{c.name}</b>{c.you ? ', you' : ''} <span class="text-sm text-soft">{c.email}</span></span>
        {#if !c.you}<Button small quiet onclick={() => (leaves = c)} aria-label="Remove {c.name}">Remove</Button>{/if}
      </li>
    {/each}
    {#each invitations.data ?? [] as i (i.id)}
      <li class="flex items-center justify-between gap-3 border-b border-rope py-2">
        <span
          >{i.forWhom || 'Somebody'} is invited by {i.invitedBy}; the link works until {shortDay(
            i.expiresAt ?? '',
            session.zone,
          )}.</span>
        <Button small quiet onclick={() => withdraw(i.id)} aria-label="Withdraw the link for {i.forWhom || 'somebody'}"
          >Withdraw</Button>
      </li>
    {/each}
  </ul>
  <form class="mt-3 flex flex-wrap items-end gap-2" onsubmit={invite}>
    <label class="min-w-48 flex-1"
      ><span class="label">Invite a coach: who is it?</span><input
        class="input mt-1"
        maxlength="120"
        placeholder="A name, to tell the links apart"
        bind:value={forWhom} /></label>
    <Button disabled={act.busy !== ''}>Make a link</Button>
  </form>
  <Problem text={act.problem} />
  {#if link}
    <div class="mt-3 border-l-4 border-ink pl-3" role="status">
      <p>
        Send this link yourself. It makes one coach of whoever opens it first, within a week, and is not shown again.
      </p>
      <p class="mt-1 flex flex-wrap items-center gap-2">
        <input
          class="input min-w-0 flex-1 basis-60"
          readonly
          aria-label="The link"
          value={link}
          onfocus={(e) => e.currentTarget.select()} />
        <Button type="button" onclick={() => copy(link, 'link')}>Copy link</Button>
      </p>
    </div>
  {/if}
</section>

{#if leaves}
  <Over title="Remove {leaves.name}" onleave={() => (leaves = null)}>
    <p class="mt-2">They are signed out at once and cannot sign in any more. The rounds they ran stay in the log.</p>
    <form class="mt-3" onsubmit={remove}>
      <Secret label="Your password" bind:value={password} />
      <Problem text={removing.problem} />
      <div class="mt-4 flex gap-2">
        <Button main>Remove</Button><Dialog.Close class="button" type="button">Cancel</Dialog.Close>
      </div>
    </form>
  </Over>
{/if}
