<script lang="ts">
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query'
  import { Toaster } from 'svelte-sonner'
  import Router, { router } from 'svelte-spa-router'
  import { wrap } from 'svelte-spa-router/wrap'
  import { onMount } from 'svelte'
  import { kinds } from './lib/bench/kinds.svelte'
  import { sendLeftovers } from './lib/run/outbox.svelte'
  import { session } from './lib/session.svelte'
  import Notice from './lib/ui/Notice.svelte'
  import Shell from './lib/ui/Shell.svelte'
  import SignIn from './views/SignIn.svelte'
  import Today from './views/Today.svelte'

  const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2000 } } })
  const routes = {
    '/': Today,
    '/people': wrap({ asyncComponent: () => import('./views/People.svelte') }),
    '/people/:id': wrap({ asyncComponent: () => import('./views/person/Person.svelte') }),
    '/people/:id/tests': wrap({ asyncComponent: () => import('./views/tests/Tests.svelte') }),
    '/people/:id/ladder/:kind': wrap({ asyncComponent: () => import('./views/ladder/Ladder.svelte') }),
    '/bags': wrap({ asyncComponent: () => import('./views/Bags.svelte') }),
    '/bags/:id': wrap({ asyncComponent: () => import('./views/bench/Bench.svelte') }),
    '/cards/:rig/:trainee': wrap({ asyncComponent: () => import('./views/Card.svelte') }),
    '/drills': wrap({ asyncComponent: () => import('./views/Drills.svelte') }),
    '/drills/:id': wrap({ asyncComponent: () => import('./views/editor/DrillEditor.svelte') }),
    '/library': wrap({ asyncComponent: () => import('./views/Library.svelte') }),
    '/compose/:id': wrap({ asyncComponent: () => import('./views/compose/Composer.svelte') }),
    '/run/:id': wrap({ asyncComponent: () => import('./views/run/Run.svelte') }),
    '/review/:id': wrap({ asyncComponent: () => import('./views/review/Review.svelte') }),
    '/delay': wrap({ asyncComponent: () => import('./views/Delay.svelte') }),
    '/log': wrap({ asyncComponent: () => import('./views/Log.svelte') }),
    '*': Today,
  }
  const floor = $derived(router.location.startsWith('/run/'))

  onMount(() => {
    void session.load()
    // A session that has run out leads back to the sign-in page; a round on the floor is not torn down for it.
    addEventListener('signed-out', () => {
      if (session.me && !floor) session.me = null
    })
  })
  $effect(() => {
    if (session.me) {
      void kinds.load()
      void sendLeftovers(session.me.id)
    } else client.clear()
  })
  $effect(() => {
    document.documentElement.classList.toggle('slate', floor && !!session.me)
  })
</script>

<QueryClientProvider {client}>
  {#if session.problem || kinds.problem}
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
