<!-- A page to print: for the wall, or for a pocket. What stands about it is not printed. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'

  type Props = {
    title: string
    back: string
    sizes?: boolean
    large?: boolean // there is room for larger letters
    caution: string
    children: Snippet<[boolean]>
  }
  let { title, back, sizes = true, large = false, caution, children }: Props = $props()
  let size = $state<'wall' | 'pocket'>('wall')
  const today = new Intl.DateTimeFormat('en-GB', { timeZone: session.zone, dateStyle: 'long' }).format(new Date())
</script>

<div class="mb-4 flex flex-wrap items-end gap-4 print:hidden">
  <Button main onclick={() => print()}>Print this card</Button>
  {#if sizes}
    <Choice
      label="For"
      value={size}
      options={[
        { value: 'wall', text: 'The wall' },
        { value: 'pocket', text: 'A pocket' },
      ]}
      onchange={(v) => (size = v)} />
  {/if}
  <Button href={back}>Back</Button>
</div>
<article
  class="sheet mx-auto border-2 border-ink bg-sheet {large && size === 'wall' ? 'large' : ''} {size === 'pocket'
    ? 'pocket max-w-[24rem] p-4 text-[0.8rem]'
    : 'max-w-[52rem] p-6'}">
  <header class="flex flex-wrap items-baseline justify-between gap-x-6 border-b-2 border-ink pb-2">
    <h1 class="{size === 'pocket' ? 'text-xl' : 'text-3xl'} font-extrabold">{title}</h1>
    <p class="text-soft">{session.me?.gym}, {today}</p>
  </header>
  {@render children(size === 'pocket')}
  <footer
    class="mt-3 border-t-2 border-dashed border-rope pt-2 text-soft {size === 'pocket' ? 'text-[0.7rem]' : 'text-sm'}">
    {caution}
  </footer>
</article>

<style>
  @media print {
    .sheet {
      border: 0;
      padding: 0;
      max-width: none;
    }
    .pocket {
      border: 1px dashed black;
      padding: 4mm;
      width: 95mm;
      font-size: 9px;
    }
  }
</style>
