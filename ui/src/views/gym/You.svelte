<!-- The account of whoever is signed in: name, password, and the way out of every device. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../../lib/act.svelte'
  import { api, ask } from '../../lib/api/client'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Secret from '../../lib/ui/Secret.svelte'

  const client = useQueryClient()
  const naming = new Act(client)
  const locking = new Act(client)
  const leaving = new Act(client)
  let name = $state(session.me?.name ?? '')
  let old = $state('')
  let fresh = $state('')

  async function rename(e: SubmitEvent) {
    e.preventDefault()
    const before = session.me?.name ?? ''
    const set = (to: string) => async () => (session.me = await ask(api.PUT('/api/account', { body: { name: to } })))
    await naming.do('name', set(name), {
      said: (me) => `You are ${me.name} now.`,
      undo: set(before),
      undone: `You are ${before} again.`,
      unchanged: 'Nothing was changed.',
    })
  }
  async function lock(e: SubmitEvent) {
    e.preventDefault()
    const work = async () => (await ask(api.POST('/api/account/password', { body: { old, new: fresh } })), true)
    const done = await locking.do('password', work, {
      said: 'Password changed. Every other device is signed out.',
      unchanged: 'The old password stays.',
    })
    if (done) old = fresh = ''
  }
  const leave = () =>
    leaving.do(
      'leave',
      async () => {
        await ask(api.POST('/api/account/sign-out-everywhere'))
        session.me = null
      },
      { unchanged: 'Nobody was signed out.' },
    )
</script>

<section class="seam pt-3" aria-labelledby="you">
  <h2 id="you" class="text-xl font-bold">You</h2>
  <p class="text-sm text-soft">Signed in as {session.me?.email}</p>
  <form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={rename}>
    <label class="min-w-48 flex-1"
      ><span class="label">Your name</span><input
        class="input mt-1"
        required
        maxlength="120"
        autocomplete="name"
        bind:value={name} /></label>
    <Button disabled={name === session.me?.name || naming.busy !== ''}>Save name</Button>
  </form>
  <Problem text={naming.problem} />
  <form class="mt-3" onsubmit={lock}>
    <div class="grid gap-x-4 sm:grid-cols-2">
      <Secret label="Password now" bind:value={old} />
      <Secret label="New password, 10 characters or more" fresh bind:value={fresh} />
    </div>
    <Problem text={locking.problem} />
    <p class="mt-2 flex flex-wrap gap-2">
      <Button disabled={locking.busy !== ''}>Change password</Button>
      <Button type="button" quiet disabled={leaving.busy !== ''} onclick={leave}>Sign out everywhere</Button>
    </p>
    <Problem text={leaving.problem} />
  </form>
</section>
