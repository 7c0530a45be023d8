import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { ask, newId, type PersonView } from '../api/client'
import { connection, pick } from '../api/connection'
import { useRead } from '../composables/useRead'

/** What this device may do, and the people who may be picked on it. */
export const useMe = defineStore('me', () => {
  const { found: me } = useRead(['me'], (api) => api.GET('/api/me'))
  const mayAll = computed(() => me.value?.role === 'owner')
  const isShutOut = computed(() => me.value?.role === '' || connection.shutOut)
  const { found } = useRead(['people'], (api) => api.GET('/api/people'), {
    when: () => Boolean(me.value?.role),
  })
  const people = computed(() => found.value ?? [])

  watch(found, (now) => {
    const known = now?.some((one) => one.id === connection.person)
    if (now && connection.person && !known) pick('')
  })

  async function pair(code: string, name: string): Promise<void> {
    me.value = await ask((api) => api.POST('/api/pairing', { body: { code, name } }))
    connection.shutOut = false
  }

  async function add(name: string, initials: string): Promise<void> {
    const body = { id: newId(), name, initials }
    found.value = await ask((api) => api.POST('/api/people', { body }))
  }

  async function remove(one: PersonView): Promise<void> {
    const params = { path: { person_id: one.id } }
    const body = { name: one.name, initials: one.initials, gone: true, seen: one.version }
    found.value = await ask((api) => api.PUT('/api/people/{person_id}', { params, body }))
  }

  return { me, people, mayAll, isShutOut, pair, add, remove }
})
