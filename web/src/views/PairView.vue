<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { ref } from 'vue'
import { useGuarded } from '../composables/useGuarded'
import { useMe } from '../stores/me'

/** All a device sees that was not let in. */
const store = useMe()
const { problem, busy, guarded } = useGuarded()
const code = ref(new URLSearchParams(location.search).get('code') ?? '')
const name = ref('')

const pair = () =>
  guarded(async () => {
    await store.pair(code.value.trim(), name.value)
    location.replace('/')
  })
</script>

<template>
  <main class="sheet grid gap-14px max-w-520px my-0 mx-auto">
    <img src="/mark.svg" alt="" width="56" height="56" />
    <h1>Let this device in</h1>
    <p>
      At the bench, open People and devices and press “Let a device in”. Its six digits live two
      minutes and let in one device.
    </p>
    <form class="card stack" @submit.prevent="pair">
      <label class="labelled">
        The six digits
        <el-input
          v-model="code"
          class="figure text-32px [letter-spacing:0.2em]"
          inputmode="numeric"
          autocomplete="one-time-code"
          maxlength="6"
        />
      </label>
      <label class="labelled">
        What to call this device
        <el-input v-model="name" maxlength="60" placeholder="Phone, bay 2" />
      </label>
      <el-button
        native-type="submit"
        type="primary"
        size="large"
        :disabled="busy || code.trim().length !== 6 || !name.trim()"
      >
        Let it in
      </el-button>
      <RefusalNote :said="problem" />
    </form>
  </main>
</template>
