<!-- Names and bags, one press each. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../../lib/api/client'
  import { kindName } from '../../lib/bench/kinds.svelte'
  import { count } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'

  type Props = { people: string[]; bags: string[]; last?: string[] }
  let { people = $bindable(), bags = $bindable(), last = [] }: Props = $props()
  const everybody = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const hung = createQuery(() => ({ queryKey: ['rigs'], queryFn: () => ask(api.GET('/api/rigs')) }))
  // A bag that went since counts no more; where none was chosen, all that hang are used.
  const used = $derived.by(() => {
    const known = bags.filter((id) => hung.data?.some((b) => b.id === id))
    return known.length > 0 ? known : (hung.data ?? []).map((b) => b.id)
  })
  const before = $derived(last.filter((id) => everybody.data?.some((t) => t.id === id)))

  const toggled = (list: string[], id: string) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id])
  const look = (on: boolean) =>
    `choice min-h-12 rounded-[3px] border-2 px-4 font-semibold text-ink hover:bg-shade ${on ? 'border-ink bg-ink! text-ground!' : 'border-edge'}`
</script>

{#if everybody.isError || hung.isError}
  <Notice
    title="The people and bags could not be read"
    text={(everybody.error ?? hung.error)?.message ?? ''}
    again={() => (everybody.refetch(), hung.refetch())} />
{:else if everybody.data?.length === 0}
  <Notice title="Nobody yet." text="Add those who train here first.">
    <Button href="#/people">To the people</Button>
  </Notice>
{:else}
  <div class="mt-4 flex min-h-12 flex-wrap gap-2" role="group" aria-label="People">
    {#each everybody.data ?? [] as t (t.id)}
      <button
        class={look(people.includes(t.id))}
        aria-pressed={people.includes(t.id)}
        onclick={() => (people = toggled(people, t.id))}>{t.name}</button>
    {/each}
  </div>
  <p class="mt-3 flex min-h-9 flex-wrap items-center gap-2">
    <span class="text-soft"
      >{people.length === 0
        ? 'Press the names of those who are here.'
        : count(people.length, 'person', 'people') + ' here.'}</span>
    <Button small onclick={() => (people = (everybody.data ?? []).map((t) => t.id))}>Everybody</Button>
    {#if before.length > 0}
      <Button small onclick={() => (people = before)}>As last time ({before.length})</Button>
    {/if}
    {#if people.length > 0}<Button small quiet onclick={() => (people = [])}>Nobody</Button>{/if}
  </p>
  <h2 class="mt-5 text-xl font-bold">On which bags?</h2>
  <div class="mt-2 flex min-h-12 flex-wrap gap-2" role="group" aria-label="Bags">
    {#each hung.data ?? [] as b (b.id)}
      <button
        class={look(used.includes(b.id))}
        aria-pressed={used.includes(b.id)}
        onclick={() => (bags = toggled(used, b.id))}
        >{b.name} <span class="text-sm font-normal">{kindName(b.doc.kind)}</span></button>
    {/each}
  </div>
{/if}
