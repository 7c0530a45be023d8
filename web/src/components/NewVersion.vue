<script setup lang="ts">
import { useRegisterSW } from 'virtual:pwa-register/vue'
import { ElAlert, ElButton } from '../parts/later'

/** Lets the browser keep the pages, and says that a newer version of them lies ready. */
const HOURLY_MS = 3_600_000
const { needRefresh, updateServiceWorker } = useRegisterSW({
  onRegisteredSW(_address, worker) {
    if (worker) window.setInterval(() => void worker.update().catch(() => undefined), HOURLY_MS)
  },
})
</script>

<template>
  <el-alert v-if="needRefresh" role="status" type="success" :closable="false">
    <span>A new version is here. What waits to be sent stays.</span>
    <el-button @click="updateServiceWorker(true)">Load it</el-button>
  </el-alert>
</template>
