<!-- The line that is thrown, as it is typed; the word that cannot be read is underlined where it stands. -->
<script lang="ts">
  import type { Place } from '../api/client'

  type Props = {
    text: string
    wrong: boolean
    place: Place | null
    describedby: string
    field?: HTMLInputElement | undefined
    onchange: (text: string) => void
  }
  let { text, wrong, place, describedby, field = $bindable(), onchange }: Props = $props()

  let scrolled = $state(0)
  const letters = $derived([...text]) // the server counts characters
  const before = $derived(place ? letters.slice(0, place.column - 1).join('') : '')
  const marked = $derived(place ? letters.slice(place.column - 1, place.column - 1 + place.width).join('') || '  ' : '')
</script>

<span class="relative mt-1 block overflow-hidden">
  <input
    bind:this={field}
    class="input !text-2xl !font-bold"
    spellcheck="false"
    autocomplete="off"
    maxlength="4000"
    value={text}
    placeholder="1-2 | slip lead - 3"
    oninput={(e) => {
      onchange(e.currentTarget.value)
      scrolled = e.currentTarget.scrollLeft
    }}
    onscroll={(e) => (scrolled = e.currentTarget.scrollLeft)}
    aria-invalid={wrong ? 'true' : undefined}
    aria-describedby={describedby} />
  {#if place}
    <span
      class="pointer-events-none absolute inset-x-[calc(0.6rem+2px)] top-0 bottom-0 flex items-center overflow-hidden text-2xl font-bold whitespace-pre text-transparent"
      aria-hidden="true">
      <span style:transform="translateX({-scrolled}px)">{before}<u class="line" data-wrong={marked}>{marked}</u></span>
    </span>
  {/if}
</span>

<style>
  .line {
    text-decoration: underline wavy 2px var(--ink);
    text-underline-offset: 0.2em;
  }
</style>
