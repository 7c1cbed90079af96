<!-- What is to be said of a drill that is not saved: that it was left so before, or that it was changed on another screen. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import Standing from '../drafts/Standing.svelte'
  import { rowsOf, type Desk, type Given } from './desk.svelte'

  type Props = {
    desk: Desk
    people: Schemas['Trainee'][]
    bags: Schemas['Rig'][]
    told: (drill: Given) => Promise<string>
    again: () => void // begins a new drill from nothing
  }
  let { desk, people, bags, told, again }: Props = $props()
</script>

<Standing
  since={desk.draft.since}
  mine={() => $state.snapshot(desk.drill) as Given}
  theirs={desk.meanwhile.theirs}
  rows={async (drill) => rowsOf(drill, await told(drill), people, bags)}
  ondrop={() => desk.dropDraft(again)}
  onmine={() => void desk.keepMine()}
  ontheirs={() => desk.keepTheirs()} />
