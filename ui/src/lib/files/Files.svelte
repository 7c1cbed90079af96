<!-- What a page can be taken away as: its files, and the pictures on it. -->
<script lang="ts">
  import { Popover } from 'bits-ui'
  import { toast } from 'svelte-sonner'
  import { push } from 'svelte-spa-router'
  import Button from '../ui/Button.svelte'
  import type { Item } from './items'
  import { pictureFile, pictures, type Sort } from './picture'
  import { fetchFile, hand } from './save'

  type Props = {
    of: string // what they are of, for whoever listens, and in the name of a picture
    items?: Item[]
    unsaved?: boolean // the files are of what was saved last
    quiet?: boolean
    class?: string
  }
  let { of, items = [], unsaved = false, quiet = false, class: more = '' }: Props = $props()
  let open = $state(false)
  let making = $state(false)
  let shown = $state.raw<ReturnType<typeof pictures>>([])

  async function make(work: () => Promise<unknown>) {
    making = true
    try {
      await work()
    } catch (e) {
      toast(`${(e as Error).message} Nothing was saved.`)
    } finally {
      making = false
    }
  }
  const picture = async (p: (typeof shown)[number], sort: Sort) =>
    hand(await pictureFile(p.of, sort), `${of}, ${p.name.toLowerCase()}.${sort}`)
  /** Does what was pressed, with the list away. */
  function take(work: () => void) {
    open = false
    work()
  }
</script>

{#snippet row(text: string, as: string, work: () => void)}
  <button
    class="flex min-h-10 w-full items-center justify-between gap-6 px-3 text-left hover:bg-shade max-sm:min-h-11"
    aria-label="{text}, {as}"
    onclick={() => take(work)}
    ><span class="font-semibold">{text}</span><span class="text-sm text-soft">{as}</span></button>
{/snippet}

<Popover.Root
  bind:open
  onOpenChange={(now) => {
    if (now) shown = pictures()
  }}>
  <Popover.Trigger>
    {#snippet child({ props })}
      <Button {...props} {quiet} class={more} disabled={making} aria-label="Files of {of}">
        {making ? 'Making it…' : 'Files'}
      </Button>
    {/snippet}
  </Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      class="z-30 max-h-[70vh] w-72 overflow-y-auto rounded-[3px] border-2 border-ink bg-sheet py-1 shadow-[0_6px_0_var(--shade)]"
      align="end"
      sideOffset={6}
      collisionPadding={12}
      aria-label="Files of {of}">
      {#if unsaved && items.length > 0}<p class="px-3 py-1 text-sm text-soft">As it was saved last.</p>{/if}
      {#each items as item (item.text)}
        {@render row(item.text, item.as, () =>
          item.href !== undefined ? void push(item.href) : void make(() => fetchFile(item.file())),
        )}
      {/each}
      {#if shown.length > 0}<p class="px-3 pt-1.5 text-sm text-soft {items.length > 0 ? 'border-t border-rope' : ''}">
          As pictures
        </p>{/if}
      {#each shown as p (p.of)}
        {#each ['svg', 'png'] as const as sort (sort)}
          {@render row(p.name, sort.toUpperCase(), () => void make(() => picture(p, sort)))}
        {/each}
      {/each}
      {#if items.length + shown.length === 0}<p class="px-3 py-2 text-soft">Save it first.</p>{/if}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
