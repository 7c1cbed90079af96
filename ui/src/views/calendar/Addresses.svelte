<!-- The calendar in other programs: as a file, or at a private address that is told once and can be revoked. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { copy } from '../../lib/copy'
  import { gymFiles } from '../../lib/files/items'
  import { fetchFile } from '../../lib/files/save'
  import { clockTime, shortDay } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Problem from '../../lib/ui/Problem.svelte'

  type Link = Schemas['CalendarLinkOut']
  const act = new Act(useQueryClient())
  const links = createQuery(() => ({
    queryKey: ['calendar-links'],
    queryFn: () => ask(api.GET('/api/calendar-links')),
  }))
  let name = $state('')
  let address = $state('')
  const file = gymFiles.find((f) => f.as === 'iCalendar')!.file!

  async function make(e: SubmitEvent) {
    e.preventDefault()
    const made = await act.do(
      'make',
      () => ask(api.POST('/api/calendar-links', { body: { name: name.trim() || 'A calendar' } as Link })),
      { unchanged: 'No address was made.' },
    )
    if (!made) return
    address = location.origin + made.path
    name = ''
  }
  const revoke = async (l: Link) => {
    const done = await act.do(
      l.id,
      async () => (await ask(api.DELETE('/api/calendar-links/{id}', { params: { path: { id: l.id } } })), true),
      { said: `The address ${l.name} is revoked. Whoever asks there is told so.` },
    )
    if (done) address = ''
  }
  const when = (at: string) => `${shortDay(at, session.zone)}, ${clockTime(at, session.zone)}`
</script>

<section class="seam pt-3" aria-labelledby="elsewhere">
  <h2 id="elsewhere" class="text-xl font-bold">In other calendars</h2>
  <p class="mt-1">A calendar app reads a private link by itself. Anyone with the link sees times, no names.</p>
  <form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={make}>
    <label class="min-w-40 flex-1"
      ><span class="label">For whom or what</span>
      <input class="input mt-1" maxlength="120" placeholder="My phone" bind:value={name} /></label>
    <Button disabled={!!act.busy}>Make an address</Button>
  </form>
  <Problem text={act.problem || (links.error?.message ?? '')} />
  {#if address}
    <div class="mt-2 border-l-4 border-ink pl-3" role="status">
      <p class="text-sm">Copy it now: it is not told again.</p>
      <label
        ><span class="sr-only">The address</span>
        <input class="input mt-1 text-sm" readonly value={address} onfocus={(e) => e.currentTarget.select()} /></label>
      <Button small class="mt-1" onclick={() => copy(address, 'address')}>Copy it</Button>
    </div>
  {/if}
  <ul class="mt-2">
    {#each links.data ?? [] as l (l.id)}
      <li class="flex items-center justify-between gap-3 border-b border-rope py-2">
        <span
          ><b>{l.name}</b>
          <span class="block text-sm text-soft"
            >{l.readAt ? `Read last on ${when(l.readAt)}` : `Made on ${when(l.madeAt ?? '')}, not read yet`}</span
          ></span>
        <Button small disabled={!!act.busy} onclick={() => revoke(l)} aria-label="Revoke {l.name}">Revoke</Button>
      </li>
    {/each}
  </ul>
  <p class="mt-3">
    <Button onclick={() => fetchFile(file()).catch((e: Error) => toast(e.message))}>Save as a file</Button>
  </p>
</section>
