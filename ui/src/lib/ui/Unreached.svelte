<!-- Stands in place of a view that could not be loaded, and becomes it once it can: at a press, or as soon as the line is back. -->
<script lang="ts">
  import { loaded, type AnyView, type Loads } from '../later'
  import Notice from './Notice.svelte'

  let { load, params }: { load: Loads; params?: Record<string, string> } = $props()
  let View = $state.raw<AnyView | null>(null)
  let tries = 0

  async function again() {
    tries++
    try {
      View = (await loaded(load, tries)).default
    } catch {
      // It says so already.
    }
  }
  $effect(() => {
    const timer = setInterval(() => View ?? again(), 5000)
    return () => clearInterval(timer)
  })
</script>

<svelte:window ononline={again} />
{#if View}
  <View {params} />
{:else}
  <h1 class="sr-only">No connection</h1>
  <Notice
    title="No connection"
    text="This page was never opened here, and cannot be loaded now. It opens by itself once the line is back."
    {again} />
{/if}
