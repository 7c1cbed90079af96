<!-- Serves the coach at the desk: what holds for the gym, who coaches in it, one's own account, and this device. -->
<script lang="ts">
  import { session } from '../../lib/session.svelte'
  import Coaches from './Coaches.svelte'
  import Device from './Device.svelte'
  import Files from './Files.svelte'
  import Settings from './Settings.svelte'
  import You from './You.svelte'
</script>

<svelte:head><title>Gym · Melodromos</title></svelte:head>
<h1 class="text-3xl font-extrabold">{session.me?.gym}</h1>
<div class="mt-4 grid grid-cols-1 gap-x-10 gap-y-8 lg:grid-cols-[1.2fr_1fr]">
  <div class="grid grid-cols-1 content-start gap-8">
    <Settings />
    <Files />
  </div>
  <div class="grid grid-cols-1 content-start gap-8">
    <Coaches />
    <You />
    <Device />
  </div>
</div>
