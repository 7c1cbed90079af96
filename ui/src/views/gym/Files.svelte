<!-- What the gym has put in, taken out and brought in. -->
<script lang="ts">
  import { gymFiles } from '../../lib/files/items'
  import { fetchFile } from '../../lib/files/save'
  import { toast } from 'svelte-sonner'
  import Button from '../../lib/ui/Button.svelte'

  let making = $state('')
  async function save(item: (typeof gymFiles)[number]) {
    making = item.text
    try {
      await fetchFile(item.file!())
    } catch (e) {
      toast(`${(e as Error).message} Nothing was saved.`)
    }
    making = ''
  }
  const told: Record<string, string> = {
    JSON: 'Bags, people, drills, sessions, dates and settings. Contains names and injuries: store it safely.',
    iCalendar: 'When classes are held.',
  }
</script>

<section class="seam pt-3" aria-labelledby="files">
  <h2 id="files" class="text-xl font-bold">Files</h2>
  <ul>
    {#each gymFiles as item (item.text)}
      <li class="flex items-center justify-between gap-4 border-b border-rope py-2">
        <span
          ><b>{item.text}</b> <span class="text-soft">{item.as}</span>
          {#if told[item.as]}<span class="block text-sm text-soft">{told[item.as]}</span>{/if}</span>
        <Button small disabled={!!making} onclick={() => save(item)} aria-label="Save {item.text.toLowerCase()}"
          >{making === item.text ? 'Making it…' : 'Save'}</Button>
      </li>
    {/each}
  </ul>
  <p class="mt-3 flex flex-wrap gap-2">
    <Button href="#/import">Bring in a file</Button><Button quiet href="#/calendar">Calendar</Button>
  </p>
</section>
