<!-- Which bag, for whom, and keeping it. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { kindName, kinds } from '../../lib/bench/kinds.svelte'
  import Files from '../../lib/files/Files.svelte'
  import { bagFiles } from '../../lib/files/items'
  import { length } from '../../lib/format'
  import Part from '../../lib/say/Part.svelte'
  import Pick from '../../lib/say/Pick.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import type { Desk } from './desk.svelte'

  type Props = { desk: Desk; people: Schemas['Trainee'][]; onsave: () => void }
  let { desk, people, onsave }: Props = $props()
  const person = $derived(people.find((t) => t.id === desk.traineeId))

  function hangFor(id: string) {
    desk.traineeId = id
    localStorage.setItem('bench-for', id)
  }
</script>

<div class="flex flex-wrap items-start gap-x-4 gap-y-2">
  <h1 class="min-w-0 flex-1 basis-80 text-2xl leading-10 font-bold">
    <Part text={desk.name || 'A bag'} label="Name of the bag">
      {#snippet children(close)}
        <label class="block">
          <span class="label">Name of the bag</span>
          <input
            class="input mt-1"
            maxlength="120"
            bind:value={desk.name}
            placeholder="What you call it"
            onkeydown={(e) => e.key === 'Enter' && close()} />
        </label>
      {/snippet}
    </Part><span class="font-normal">, a</span>
    {#if desk.isNew}
      <Part text={kinds.of(desk.kind).name} label="Kind">
        {#snippet children(close)}
          <Pick
            label="Kind"
            value={desk.kind}
            options={kinds.all.map((m) => ({ value: m.kind, text: kindName(m.kind) }))}
            onpick={(kind) => {
              desk.begin(kind as typeof desk.kind)
              close()
            }} />
        {/snippet}
      </Part>
    {:else}
      <span class="font-normal">{kinds.of(desk.kind).name}</span>
    {/if}
    {#if people.length > 0}
      <span class="font-normal">set up for</span>
      <Part text={person?.name ?? 'nobody yet'} label="Person">
        {#snippet children(close)}
          <Pick
            label="Person"
            value={desk.traineeId}
            options={people.map((t) => ({
              value: t.id,
              text: `${t.name}, ${t.height ? length(t.height, session.units) : 'height not measured'}`,
            }))}
            onpick={(id) => {
              hangFor(id)
              close()
            }} />
        {/snippet}
      </Part>
    {/if}
  </h1>
  <div class="flex flex-wrap gap-2">
    <Files
      of={desk.name || 'a bag'}
      items={desk.saved ? bagFiles(desk.saved.id, person ? desk.traineeId : '') : []}
      unsaved={desk.changed} />
    {#if !desk.isNew}
      <Button disabled={!desk.changed} onclick={() => desk.putBack(() => undefined)}>Discard changes</Button>
    {/if}
    <Button main disabled={!desk.changed || desk.whatIf.refusal !== null} onclick={onsave}>
      {desk.isNew ? 'Save this bag' : 'Save measures'}
    </Button>
  </div>
</div>
