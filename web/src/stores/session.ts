import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, of } from '../api/client'
import { actingFor, onRole, signedInAgain, useToken, withoutAsking } from '../api/connection'
import type { paths } from '../api/schema'

type State = paths['/api/session']['get']['responses']['200']['content']['application/json']

/** Who is signed in, and which library they look at. */
export const useSession = defineStore('session', () => {
  const state = ref<State>()
  const libraryId = ref<number>()
  const ready = ref(false)
  const person = computed(() => state.value?.person ?? null)
  const libraries = computed(() => state.value?.libraries ?? [])
  const library = computed(() => libraries.value.find(({ id }) => id === libraryId.value))
  const mayEdit = computed(
    () =>
      !!library.value && library.value.role !== 'guest' && !library.value.archived && library.value.kind !== 'stock',
  )
  const begins = computed(() => !!state.value?.begins)
  const mayUse = (who: 'all' | 'editors' | 'leads' | 'owner') =>
    ({
      all: true,
      editors: mayEdit.value,
      leads: library.value?.role === 'lead',
      owner: !!person.value?.owner,
    })[who]
  const maySend = computed(() => library.value?.role === 'lead')

  function take(got: State) {
    state.value = got
    useToken(got.csrf)
    actingFor(got.person?.id)
    const last = Number(localStorage.getItem('fobrel.library'))
    const known = (wanted?: number) => got.libraries.find(({ id }) => id === wanted)
    libraryId.value = (known(libraryId.value) ?? known(last) ?? [...got.libraries].sort((a, b) => a.id - b.id)[0])?.id
    ready.value = true
  }

  const load = async () => take(await of(api.GET('/api/session')))
  const signIn = async (login: string, password: string) => {
    take(await of(api.POST('/api/session', { body: { login, password } })))
    // The session is a new one now, and so is its token.
    await load()
  }
  /** Comes in by another way than the password: what answers says who is signed in then. */
  async function enterBy(ask: () => Promise<State>) {
    take(await ask())
    await load()
  }
  /** Signs in over the page, as the same person; what was asked meanwhile is carried out then. */
  async function signInAgain(password: string) {
    await of(api.POST('/api/session', { body: { login: person.value!.login, password } }))
    take(await of(api.GET('/api/session')))
    signedInAgain()
  }
  /** Whether a hint is still to be shown. */
  const unread = (hint: string) => !!person.value && !person.value.hints.includes(hint)
  const readHint = async (name: string) =>
    take(await of(api.PUT('/api/me/hints/{name}', { params: { path: { name } } })))
  const signOut = () => withoutAsking(async () => take(await of(api.DELETE('/api/session'))))

  // A role that was changed while the page is open counts from the next answer on.
  onRole((id, role) => {
    const one = libraries.value.find((library) => library.id === id)
    if (one && one.role !== role) one.role = role as typeof one.role
  })

  /** What the library's sizes are compared with; for leads to change. */
  async function paintOn(canvas: { width: number; height: number }) {
    const { canvas: now } = await of(
      api.PUT('/api/libraries/{library}/canvas', { params: { path: { library: libraryId.value! } }, body: canvas }),
    )
    if (library.value) library.value.canvas = now
  }

  function look(id: number) {
    localStorage.setItem('fobrel.library', String(id))
    libraryId.value = id
  }

  return {
    person,
    libraries,
    library,
    libraryId,
    ready,
    begins,
    enterBy,
    mayEdit,
    mayUse,
    maySend,
    load,
    signIn,
    signInAgain,
    signOut,
    unread,
    readHint,
    look,
    paintOn,
  }
})
