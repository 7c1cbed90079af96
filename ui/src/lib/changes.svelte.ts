export type Change = {
  /** What was changed, so that only the last change of it can be taken back. */
  of: string
  /** What taking it back is called: save, archive. */
  what: string
  said: string
  back: () => Promise<boolean>
}
const most = 20

/** What was saved, archived or removed since the page was opened, and can be taken back: the newest first. */
class Changes {
  all = $state.raw<Change[]>([])
  newest = $derived(this.all[0])

  add(change: Change) {
    this.all = [change, ...this.all.filter((c) => c.of !== change.of)].slice(0, most)
  }

  /** Somebody else may sign in here: what was done is not theirs to take back. */
  clear() {
    this.all = []
  }

  drop(change: Change) {
    this.all = this.all.filter((c) => c !== change)
  }

  async takeBack(change: Change) {
    if (await change.back()) this.drop(change)
  }
}

export const changes = new Changes()
