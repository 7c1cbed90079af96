<script lang="ts">
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import { takesFocus } from '../lib/ui/focus'
  import Mark from '../lib/ui/Mark.svelte'
  import Problem from '../lib/ui/Problem.svelte'
  import Secret from '../lib/ui/Secret.svelte'

  let email = $state('')
  let password = $state('')
  let problem = $state('')
  let busy = $state(false)
  const info = $derived(session.info)

  async function submit(e: SubmitEvent) {
    e.preventDefault()
    busy = true
    problem = ''
    try {
      await session.signIn(email, password)
    } catch (cause) {
      problem = (cause as Error).message
    }
    busy = false
  }
</script>

<main class="grid min-h-dvh md:grid-cols-[1.1fr_1fr]">
  <section class="slate flex flex-col justify-between gap-8 bg-ground p-6 text-ink sm:p-12">
    <div class="flex items-center gap-3"><Mark size={44} /><span class="figure text-3xl">Melodromos</span></div>
    <h1 class="figure max-w-[9em] text-5xl sm:text-7xl">The bag sets the tempo.</h1>
    <svg viewBox="0 0 560 150" class="w-full" aria-hidden="true">
      <path d="M0 12H560M0 138H560" stroke="var(--brass)" stroke-width="3" />
      <path
        d="M0 96Q24 50 40 12Q86 66 120 138Q168 84 206 12Q238 40 262 74Q288 48 304 12Q350 66 384 138Q432 84 470 12Q502 40 526 74Q546 50 560 22"
        fill="none"
        stroke="var(--ink)"
        stroke-width="4" />
      {#each [262, 526] as x (x)}<circle cx={x} cy="74" r="13" fill="var(--strike)" />{/each}
      {#each [[40, 12], [120, 138], [206, 12], [304, 12], [384, 138], [470, 12]] as [x, y] (x)}<path
          d="M{x} {y! - 10}v20"
          stroke="var(--brass)"
          stroke-width="6" />{/each}
    </svg>
  </section>
  <section class="flex items-center p-6 sm:p-12">
    <form class="w-full max-w-sm" onsubmit={submit}>
      <h2 class="text-2xl font-bold">Sign in</h2>
      <label class="mt-6 block"
        ><span class="label">E-mail</span><input
          class="input mt-1"
          type="email"
          name="email"
          autocomplete="username"
          required
          bind:value={email}
          {@attach takesFocus} /></label>
      <Secret label="Password" class="mt-4" bind:value={password} />
      <Problem text={problem} />
      <Button main class="mt-6 w-full" disabled={busy}>{busy ? 'Signing in…' : 'Sign in'}</Button>
      {#if info.demoEmail}
        <div class="seam mt-8 pt-4 text-sm">
          <p class="font-semibold">This is a demo gym. Its people and rounds are made up.</p>
          <p class="mt-1 text-soft">{info.demoEmail} · {info.demoPassword}</p>
          <Button
            type="button"
            class="mt-3"
            onclick={() => {
              email = info.demoEmail ?? ''
              password = info.demoPassword ?? ''
            }}>Fill in the demo account</Button>
        </div>
      {/if}
    </form>
  </section>
</main>
