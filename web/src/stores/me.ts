import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { ask, newId, type MeView, type PersonView } from '../api/client'
import { connection, pick } from '../api/connection'

/** What this device may do, and the people who may be picked on it. */
export const useMe = defineStore('me', () => {
  const me = shallowRef<MeView | null>(null)
  const people = shallowRef<PersonView[]>([])
  const mayAll = computed(() => me.value?.role === 'owner')
  const isShutOut = computed(() => me.value?.role === '' || connection.shutOut)

  async function load(): Promise<void> {
    me.value = await ask((api) => api.GET('/api/me'))
    if (me.value.role) await loadPeople()
  }

  async function loadPeople(): Promise<void> {
    people.value = await ask((api) => api.GET('/api/people'))
    const known = people.value.some((one) => one.id === connection.person)
    if (connection.person && !known) pick('')
  }

  async function pair(code: string, name: string): Promise<void> {
    me.value = await ask((api) => api.POST('/api/pairing', { body: { code, name } }))
    connection.shutOut = false
    await loadPeople()
  }

  async function add(name: string, initials: string): Promise<void> {
    const body = { id: newId(), name, initials }
    people.value = await ask((api) => api.POST('/api/people', { body }))
  }

  async function remove(one: PersonView): Promise<void> {
    const params = { path: { person_id: one.id } }
    const body = { name: one.name, initials: one.initials, gone: true, seen: one.version }
    people.value = await ask((api) => api.PUT('/api/people/{person_id}', { params, body }))
  }

  void load().catch(() => undefined)
  return { me, people, mayAll, isShutOut, load, pair, add, remove }
})
