<!-- What a drill is called, for whom and on which bag, as a sentence, and what is done with it. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import type { Schemas } from '../api/client'
  import { kinds } from '../bench/kinds.svelte'
  import Files from '../files/Files.svelte'
  import { givenFiles } from '../files/items'
  import Part from '../say/Part.svelte'
  import Pick from '../say/Pick.svelte'
  import Button from '../ui/Button.svelte'
  import type { Desk } from './desk.svelte'

  type Props = {
    desk: Desk
    own: string // what it is called where it has no name
    people: Schemas['Trainee'][]
    bags: Schemas['Rig'][]
    cannot: boolean
    onsave: (run: boolean) => void
    who?: Snippet | undefined // in place of the list of people
    newcomer?: string
    children?: Snippet
  }
  let { desk, own, people, bags, cannot, onsave, who, newcomer = '', children }: Props = $props()
  const drill = $derived(desk.drill!)
  const trainee = $derived(people.find((t) => t.id === drill.traineeId))
  const called = $derived(drill.name || own || 'A drill')
  const short = (text: string) => (text.length > 26 ? `${text.slice(0, 24).trimEnd()}…` : text) // the whole stands in the field
  const bag = $derived(bags.find((b) => b.id === drill.rigId))
</script>

<div class="flex flex-wrap items-start gap-x-4 gap-y-2">
  <h1 class="min-w-0 flex-1 basis-80 text-2xl leading-10 font-bold">
    <Part text={short(called)} label="Name">
      {#snippet children(close)}
        <label class="block">
          <span class="label">Name, if you want one</span>
          <input
            class="input mt-1"
            maxlength="120"
            bind:value={drill.name}
            placeholder={own}
            onkeydown={(e) => e.key === 'Enter' && close()} />
        </label>
      {/snippet}
    </Part>
    <span class="font-normal">for</span>
    <Part text={trainee?.name ?? (newcomer || 'somebody new')} label="Person">
      {#snippet children(close)}
        {#if who}
          {@render who()}
        {:else}
          <Pick
            label="Person"
            value={drill.traineeId}
            options={people.map((t) => ({
              value: t.id,
              text: `${t.name}${t.stance === 'southpaw' ? ', southpaw' : ''}`,
            }))}
            onpick={(id) => {
              drill.traineeId = id
              close()
            }} />
        {/if}
      {/snippet}
    </Part>
    <span class="font-normal">on the</span>
    <Part text={bag?.name ?? 'bag'} label="Bag">
      {#snippet children(close)}
        <Pick
          label="Bag"
          value={drill.rigId}
          options={bags.map((b) => ({ value: b.id, text: `${b.name}, ${kinds.of(b.doc.kind).name}` }))}
          onpick={(id) => {
            drill.rigId = id
            close()
          }} />
      {/snippet}
    </Part>
  </h1>
  <div class="flex flex-wrap gap-2">
    {@render children?.()}
    <Files quiet of={called} items={drill.id ? givenFiles(drill.id, drill.drillId) : []} unsaved={desk.changed} />
    <Button disabled={cannot} onclick={() => onsave(false)}>Save</Button>
    <Button main disabled={cannot} onclick={() => onsave(true)}>Start round</Button>
  </div>
</div>
