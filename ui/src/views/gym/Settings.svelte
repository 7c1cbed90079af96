<!-- What holds for the whole gym: its name, units, how it calls, its standard, and where it draws the borders between slack and tight. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { onMount, untrack } from 'svelte'
  import Standing from '../../lib/drafts/Standing.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Figures from '../../lib/ui/Figures.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import { borders, questions, ready, rowsOf, standard } from './asked'
  import { Settings } from './settings.svelte'

  const s = new Settings(useQueryClient())
  const gym = $derived(s.gym)
  const zones = Intl.supportedValuesOf('timeZone')
  onMount(() => void s.open())
  $effect(() => {
    void $state.snapshot(gym)
    untrack(() => s.keepDraft())
  })
</script>

<section class="seam pt-3" aria-labelledby="settings">
  <h2 id="settings" class="text-xl font-bold">Settings</h2>
  {#if gym}
    <Standing
      since={s.draft.since}
      mine={() => gym}
      theirs={s.meanwhile.theirs}
      rows={rowsOf}
      ondrop={() => s.putBack()}
      onmine={() => s.keepMine()}
      ontheirs={() => s.keepTheirs()} />
    <form
      class="mt-2"
      onsubmit={(e) => {
        e.preventDefault()
        void s.save()
      }}>
      <div class="grid grid-cols-1 gap-x-6 sm:grid-cols-2">
        <label class="block"
          ><span class="label">Name of the gym</span><input
            class="input mt-1"
            required
            maxlength="120"
            bind:value={gym.name} /></label>
        <label class="block"
          ><span class="label">Time zone</span><select class="input mt-1" bind:value={gym.zone}>
            {#if !zones.includes(gym.zone)}<option value={gym.zone}>{gym.zone}</option>{/if}
            {#each zones as z (z)}<option value={z}>{z.replaceAll('_', ' ')}</option>{/each}
          </select></label>
      </div>
      <div class="mt-1 grid grid-cols-1 gap-x-6 sm:grid-cols-2">
        {#each questions as q (q.label)}
          <Choice label={q.label} value={q.of(gym)} options={q.options} onchange={(v) => q.set(gym, v)} />
        {/each}
      </div>
      <Figures label="Get ready: from the press to the bell" of={gym} fields={ready} />
      <Figures label="Standard of a rung: what passes it" of={gym.gate} fields={standard} />
      <Figures
        label="Cords of a double-end bag: how fast a half-power strike comes back"
        of={gym.borders}
        fields={borders} />
      <p class="mt-1 text-sm text-soft">
        0.45, 0.32 and 0.17 s are our guesses to begin with. Between 0.17 and 0.32 s the cords suit combinations.
      </p>
      <Problem text={s.problem} />
      <div class="mt-4 flex flex-wrap gap-2">
        <Button main disabled={!s.changed}>Save settings</Button>
        <Button type="button" disabled={!s.changed} onclick={() => s.putBack()}>Discard changes</Button>
      </div>
    </form>
  {:else}
    <Notice
      title={s.unread ? 'The settings could not be read' : 'Reading the settings…'}
      text={s.unread}
      {...s.unread ? { again: () => void s.open() } : {}} />
  {/if}
</section>
