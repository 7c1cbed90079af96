import { api, ask, type Schemas } from './api/client'

/** Who is signed in. undefined until it is known, null when nobody is. */
class Session {
  me = $state<Schemas['Me'] | null | undefined>(undefined)
  problem = $state('')
  info = $state<Schemas['SignInInfo']>({})

  async load() {
    this.problem = ''
    try {
      this.info = await ask(api.GET('/api/sign-in'))
      this.me = this.info.me ?? null
    } catch (e) {
      this.problem = (e as Error).message
    }
  }

  async signIn(email: string, password: string) {
    this.me = await ask(api.POST('/api/sign-in', { body: { email, password } }))
  }

  async signOut() {
    await ask(api.POST('/api/sign-out'))
    this.me = null
  }

  get units() {
    return this.me?.units ?? 'metric'
  }
  get zone() {
    return this.me?.zone ?? 'UTC'
  }
}

export const session = new Session()
