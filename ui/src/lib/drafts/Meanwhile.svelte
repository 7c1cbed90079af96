<!-- Two have changed the same thing: which is kept, after a look at both. -->
<script lang="ts">
  import Button from '../ui/Button.svelte'

  type Row = { name: string; text: string }
  type Props = {
    shown: boolean
    mine: () => Row[] | Promise<Row[]>
    theirs: () => Row[] | Promise<Row[]>
    onmine: () => void
    ontheirs: () => void
  }
  let { shown, mine, theirs, onmine, ontheirs }: Props = $props()
  let both = $state.raw<{ name: string; mine: string; theirs: string }[] | null>(null)

  async function see() {
    const [here, there] = [await mine(), await theirs()]
    const names = [...new Set([...here, ...there].map((r) => r.name))]
    const of = (rows: Row[], name: string) => rows.find((r) => r.name === name)?.text || '–'
    both = names
      .map((name) => ({ name, mine: of(here, name), theirs: of(there, name) }))
      .filter((r) => r.mine !== r.theirs)
  }
  function decide(how: () => void) {
    both = null
    how()
  }
</script>

{#if shown}
  <section class="mt-3 border-l-4 border-ink pl-4" role="alert" aria-label="Changed meanwhile">
    <p><b>This was changed meanwhile, on another screen.</b> Nothing of yours is lost. Which do you want to keep?</p>
    <p class="mt-2 flex flex-wrap gap-2">
      <Button small onclick={() => decide(onmine)}>Keep mine</Button>
      <Button small onclick={() => decide(ontheirs)}>Keep theirs</Button>
      <Button small quiet onclick={see}>See both</Button>
    </p>
    {#if both}
      <table class="mt-2 text-left text-sm">
        <thead><tr><th></th><th class="pr-6">Mine</th><th>Theirs</th></tr></thead>
        <tbody>
          {#each both as r (r.name)}
            <tr class="border-t border-rope align-top">
              <th class="py-1 pr-6 font-semibold" scope="row">{r.name}</th>
              <td class="py-1 pr-6">{r.mine}</td>
              <td class="py-1">{r.theirs}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  </section>
{/if}
