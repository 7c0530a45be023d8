<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { useIntervalFn } from '@vueuse/core'
import { onUnmounted, ref, shallowRef } from 'vue'
import { ask, type CodeView, type DeviceView } from '../api/client'
import { useRead } from '../composables/useRead'
import { sayMoment } from '../composables/useWords'
import { useMe } from '../stores/me'

/** Devices of the workshop's network: let in by a code, taken off; and the people who use them. */
const store = useMe()
const {
  found: devices,
  problem,
  busy,
  guarded,
  again,
} = useRead(['devices'], (api) => api.GET('/api/devices'))
const code = shallowRef<CodeView | null>(null)
const role = ref<'floor' | 'owner'>('floor')
const name = ref('')
const initials = ref('')
let timer: number | undefined

const make = () =>
  guarded(async () => {
    code.value = await ask((api) => api.POST('/api/pairing/code', { body: { role: role.value } }))
    window.clearTimeout(timer)
    timer = window.setTimeout(() => (code.value = null), code.value.lives_ms)
  })

const takeOff = (id: string) =>
  guarded(async () => {
    const params = { path: { device_id: id } }
    devices.value = await ask((api) => api.DELETE('/api/devices/{device_id}', { params }))
  })

const change = (one: DeviceView) =>
  guarded(async () => {
    const params = { path: { device_id: one.id } }
    const body = { role: one.role === 'owner' ? ('floor' as const) : ('owner' as const) }
    devices.value = await ask((api) => api.PUT('/api/devices/{device_id}', { params, body }))
  })

const add = () =>
  guarded(async () => {
    await store.add(name.value, initials.value)
    name.value = initials.value = ''
  })

useIntervalFn(() => void again(), 3000)
onUnmounted(() => window.clearTimeout(timer))
</script>

<template>
  <div class="grid one-col gap-14px">
    <section class="card stack" aria-label="People">
      <h2>People</h2>
      <p class="soft">
        Whoever is picked on a device stands beside what is entered there: who torqued what, and who
        signed.
      </p>
      <ul class="grid gap-6px bare-list">
        <li
          v-for="one in store.people"
          :key="one.id"
          class="line flex flex-wrap gap-8px items-center justify-between"
        >
          <span
            ><b class="figure">{{ one.initials }}</b> {{ one.name }}</span
          >
          <el-button text :disabled="busy" @click="guarded(() => store.remove(one))">
            Take off
          </el-button>
        </li>
      </ul>
      <form class="row" @submit.prevent="add">
        <el-input
          v-model="name"
          class="flex-1"
          maxlength="60"
          placeholder="Name"
          aria-label="Name"
        />
        <el-input
          v-model="initials"
          class="w-90px"
          maxlength="4"
          placeholder="AB"
          aria-label="Initials"
        />
        <el-button native-type="submit" :disabled="busy || !name.trim() || !initials.trim()">
          Add
        </el-button>
      </form>
    </section>
    <section v-if="!store.me?.shared" class="card stack" aria-label="Not shared">
      <h2>Phones and other devices</h2>
      <p>
        This workshop answers to its own machine alone. Started with
        <code>fair-spindle serve --shared</code> it lets in devices of the workshop's network that
        show a code from here.
      </p>
    </section>
    <section v-else class="card stack" aria-label="Let a device in">
      <h2>Let a device in</h2>
      <div class="row">
        <label class="labelled">
          It may do
          <el-select v-model="role" :persistent="false" aria-label="It may do">
            <el-option value="floor" label="work on the floor" />
            <el-option value="owner" label="everything, as at the bench" />
          </el-select>
        </label>
        <el-button type="primary" size="large" :disabled="busy" @click="make">
          Let a device in
        </el-button>
      </div>
      <div v-if="code" class="flex flex-wrap gap-24px">
        <figure v-if="code.trust_qr" class="grid gap-8px m-0">
          <figcaption>
            <b>1.</b> Once for each device: trust this workshop at <br />{{ code.trust_address }}
          </figcaption>
          <img
            :src="code.trust_qr"
            alt="QR code of the address to trust the workshop"
            class="w-230px"
          />
        </figure>
        <figure class="grid gap-8px m-0">
          <figcaption>
            <b>{{ code.trust_qr ? '2.' : '' }}</b> Open {{ code.address }} and enter
            <span class="figure block text-44px [letter-spacing:0.12em]">{{ code.code }}</span>
          </figcaption>
          <img :src="code.address_qr" alt="QR code of the address with the code" class="w-230px" />
        </figure>
      </div>
      <el-alert v-if="!store.me.safe" type="warning" :closable="false" role="note">
        Shared without TLS: anybody in this network can read along, and phones keep no pages for a
        lost connection.
      </el-alert>
    </section>
    <section v-if="devices?.length" class="card stack" aria-label="Devices let in">
      <h2>Devices let in</h2>
      <ul class="grid gap-6px bare-list">
        <li
          v-for="one in devices"
          :key="one.id"
          class="line flex flex-wrap gap-8px items-center justify-between"
        >
          <span>
            <b>{{ one.name }}</b> · {{ one.role_said }}
            <span class="soft">· last here {{ sayMoment(one.seen_at) }}</span>
          </span>
          <span class="row">
            <el-button text :disabled="busy" @click="change(one)">
              {{ one.role === 'owner' ? 'Floor only' : 'Make it an owner' }}
            </el-button>
            <el-button :disabled="busy" @click="takeOff(one.id)">Take off</el-button>
          </span>
        </li>
      </ul>
    </section>
    <RefusalNote :said="problem" />
  </div>
</template>
