<script lang="ts">
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query'
  import { Toaster } from 'svelte-sonner'
  import Router, { router } from 'svelte-spa-router'
  import { onMount, untrack } from 'svelte'
  import { Refusal } from './lib/api/client'
  import { kinds } from './lib/bench/kinds.svelte'
  import { changes } from './lib/changes.svelte'
  import { later, loadAll } from './lib/later'
  import { leftovers } from './lib/run/outbox.svelte'
  import { session } from './lib/session.svelte'
  import Notice from './lib/ui/Notice.svelte'
  import Shell from './lib/ui/Shell.svelte'
  import SignIn from './views/SignIn.svelte'
  import Today from './views/Today.svelte'

  /** Once more, but not where the server has refused: it would again. */
  const retry = (failed: number, cause: Error) =>
    failed < 1 && !(cause instanceof Refusal && cause.status >= 400 && cause.status < 500)
  const client = new QueryClient({ defaultOptions: { queries: { retry, staleTime: 2000 } } })
  const routes = {
    '/': Today,
    '/people': later(() => import('./views/People.svelte')),
    '/people/:id': later(() => import('./views/person/Person.svelte')),
    '/people/:id/tests': later(() => import('./views/tests/Tests.svelte')),
    '/people/:id/progress': later(() => import('./views/progress/Progress.svelte')),
    '/people/:id/ladder/:kind': later(() => import('./views/ladder/Ladder.svelte')),
    '/bags': later(() => import('./views/Bags.svelte')),
    '/bags/:id': later(() => import('./views/bench/Bench.svelte')),
    '/cards/:rig/:trainee': later(() => import('./views/Card.svelte')),
    '/class': later(() => import('./views/class/Class.svelte')),
    '/class/:id': later(() => import('./views/class/Plan.svelte')),
    '/sessions': later(() => import('./views/sessions/Sessions.svelte')),
    '/sessions/:id': later(() => import('./views/sessions/Builder.svelte')),
    '/class/:id/card': later(() => import('./views/class/Card.svelte')),
    '/sessions/:id/card': later(() => import('./views/sessions/Card.svelte')),
    '/run/:id/card': later(() => import('./views/DrillCard.svelte')),
    '/floor/:id': later(() => import('./views/floor/Floor.svelte')),
    '/drills': later(() => import('./views/Drills.svelte')),
    '/drills/:id': later(() => import('./views/editor/DrillEditor.svelte')),
    '/library': later(() => import('./views/Library.svelte')),
    '/compose/:id': later(() => import('./views/compose/Composer.svelte')),
    '/run/:id': later(() => import('./views/run/Run.svelte')),
    '/review/:id': later(() => import('./views/review/Review.svelte')),
    '/gym': later(() => import('./views/gym/Gym.svelte')),
    '/import': later(() => import('./views/files/Import.svelte')),
    '/calendar': later(() => import('./views/calendar/Calendar.svelte')),
    '/delay': later(() => import('./views/Delay.svelte')),
    '/log': later(() => import('./views/Log.svelte')),
    '*': Today,
  }
  // Somebody who was sent a link has no account yet.
  const invited = $derived(/^\/join\/(\w+)$/.exec(router.location)?.[1] ?? '')
  const floor = $derived(/^\/(run|floor)\/[^/]+$/.test(router.location))

  onMount(() => {
    void session.load()
    void import('./lib/files/window') // nothing on the first page needs it
    // A session that has run out leads back to the sign-in page; a round on the floor is not torn down for it.
    addEventListener('signed-out', () => {
      if (session.me && !floor) session.me = null
    })
  })
  /** What earlier rounds could not send is tried again as soon as the line is back. */
  function sendingOn(coach: string) {
    const send = async () => {
      if (await leftovers.send(coach)) void client.invalidateQueries()
    }
    void send()
    const timer = setInterval(() => leftovers.waiting > 0 && void send(), 5000)
    addEventListener('online', send)
    return () => {
      clearInterval(timer)
      removeEventListener('online', send)
    }
  }
  $effect(() => {
    if (session.me) {
      void kinds.load()
      void loadAll()
      const coach = session.me.id
      return untrack(() => sendingOn(coach))
    }
    client.clear()
    changes.clear()
  })
  $effect(() => {
    document.documentElement.classList.toggle('slate', floor && !!session.me)
  })
</script>

<QueryClientProvider {client}>
  {#if invited}
    {#await import('./views/Join.svelte') then { default: Join }}<Join secret={invited} />{/await}
  {:else if session.problem || kinds.problem}
    <main class="mx-auto max-w-3xl p-6">
      <Notice
        title="No connection"
        text={session.problem || kinds.problem}
        again={() => (session.problem ? session.load() : kinds.load())} />
    </main>
  {:else if session.me === null}
    <SignIn />
  {:else if session.me && kinds.all.length > 0}
    {#if floor}
      <Router {routes} />
    {:else}
      <Shell><Router {routes} restoreScrollState /></Shell>
    {/if}
  {/if}
  <Toaster
    position="bottom-center"
    theme={floor ? 'dark' : 'light'}
    toastOptions={{
      unstyled: true,
      classes: {
        toast:
          'font-sans flex w-full items-center justify-between gap-3 border-2 border-ink bg-sheet px-4 py-2 font-semibold text-ink',
        actionButton: 'button',
      },
    }} />
</QueryClientProvider>
