<!-- Takes a drill to another kind of bag: what does not go with it is said before it is made. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { kindName, kinds } from '../bench/kinds.svelte'
  import { newKey } from '../key'
  import Button from '../ui/Button.svelte'
  import Over from '../ui/Over.svelte'
  import Problem from '../ui/Problem.svelte'
  import { isLine } from './doc'

  let { drill, onleave }: { drill: Schemas['Drill']; onleave: () => void } = $props()
  type Kind = Schemas['Drill']['kind']
  const act = new Act(useQueryClient())
  const others = $derived(kinds.all.map((m) => m.kind).filter((k) => k !== drill.kind))
  let kind = $state<Kind | ''>('')
  let carried = $state<Schemas['CarriedOver'] | null>(null)
  let problem = $state('')

  let key = ''

  async function look(to: Kind) {
    kind = to
    key = newKey()
    carried = null
    problem = ''
    try {
      carried = await ask(
        api.POST('/api/drills/{id}/carry', { params: { path: { id: drill.id } }, body: { kind: to } }),
      )
    } catch (e) {
      problem = (e as Error).message
    }
  }
  async function make() {
    if (!kind || !carried) return
    const body = { id: '', name: drill.name, kind, version: 0, doc: carried.doc }
    const header = { 'Idempotency-Key': key }
    const made = await act.do('carry', () => ask(api.POST('/api/drills', { body, params: { header } })), {
      said: (d) => `${d.name} is made for the ${kinds.of(d.kind).name}.`,
    })
    if (made) onleave()
  }
</script>

<Over {onleave} title="Take {drill.name} to another bag">
  <div class="mt-3 flex flex-wrap gap-2">
    {#each others as k (k)}
      <Button main={kind === k} aria-pressed={kind === k} onclick={() => look(k)}>{kindName(k)}</Button>
    {/each}
  </div>
  <Problem text={problem} />
  {#if carried && !problem}
    {#if isLine(carried.doc)}<p class="mt-3 text-lg font-bold">{carried.doc.text}</p>{/if}
    {#if carried.lost.length === 0}
      <p class="mt-1 text-soft">All of it carries over. Force and tempo are set for each person who gets it.</p>
    {:else}
      <p class="label mt-2">What does not carry over</p>
      <ul class="list-disc pl-5">
        {#each carried.lost as l (l)}<li>{l}</li>{/each}
      </ul>
    {/if}
  {/if}
  <div class="mt-4 flex gap-2">
    <Button main disabled={!carried || act.busy !== ''} onclick={make}>Make the drill</Button>
    <Dialog.Close class="button">Cancel</Dialog.Close>
  </div>
</Over>
