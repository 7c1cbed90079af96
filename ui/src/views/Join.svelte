<!-- Serves somebody who was sent a link: whose gym it is, and the account that they coach with. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import { replace } from 'svelte-spa-router'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import { takesFocus } from '../lib/ui/focus'
  import Mark from '../lib/ui/Mark.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import Problem from '../lib/ui/Problem.svelte'
  import Secret from '../lib/ui/Secret.svelte'

  let { secret }: { secret: string } = $props()
  let welcome = $state<Schemas['Welcome'] | null>(null)
  let unread = $state('')
  let problem = $state('')
  let busy = $state(false)
  let who = $state({ name: '', email: '', password: '' })

  async function look() {
    unread = ''
    try {
      welcome = await ask(api.POST('/api/join/look', { body: { secret } }))
      who.name = welcome.forWhom
    } catch (e) {
      unread = (e as Error).message
    }
  }
  onMount(() => void look())

  async function join(e: SubmitEvent) {
    e.preventDefault()
    busy = true
    problem = ''
    try {
      const me = await ask(api.POST('/api/join', { body: { secret, ...$state.snapshot(who) } }))
      await replace('/')
      session.me = me
    } catch (cause) {
      problem = `${(cause as Error).message} Nothing was made.`
    }
    busy = false
  }
</script>

<svelte:head><title>Join · Melodromos</title></svelte:head>
<main class="mx-auto max-w-md p-6 sm:pt-16">
  <p class="flex items-center gap-2"><Mark /><span class="figure text-2xl">Melodromos</span></p>
  {#if welcome}
    <h1 class="mt-8 text-3xl font-extrabold">Coach at {welcome.gym}</h1>
    <p class="mt-2">{welcome.invitedBy} invites you. Choose how you sign in.</p>
    <form class="mt-4" onsubmit={join}>
      <label class="block"
        ><span class="label">Your name</span><input
          class="input mt-1"
          required
          maxlength="120"
          autocomplete="name"
          bind:value={who.name}
          {@attach takesFocus} /></label>
      <label class="mt-3 block"
        ><span class="label">E-mail</span><input
          class="input mt-1"
          type="email"
          required
          autocomplete="username"
          bind:value={who.email} /></label>
      <Secret label="Password, 10 characters or more" fresh class="mt-3" bind:value={who.password} />
      <Problem text={problem} />
      <Button main class="mt-6 w-full" disabled={busy}>Join {welcome.gym}</Button>
    </form>
  {:else if unread}
    <h1 class="mt-8 text-2xl font-bold">This link does not work</h1>
    <p class="mt-2">{unread}</p>
    <div class="mt-4 flex gap-2">
      <Button onclick={look}>Try again</Button><Button quiet href="#/">Sign in</Button>
    </div>
  {:else}
    <Notice title="Reading the invitation…" />
  {/if}
</main>
