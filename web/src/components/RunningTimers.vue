<script setup lang="ts">
import { useTimers } from '../composables/useTimers'

const { timers } = useTimers()
</script>

<template>
  <ul v-if="timers.length" class="grid gap-8px bare-list" aria-label="Working by itself">
    <li v-for="one in timers" :key="one.title">
      <el-alert :type="one.left ? 'warning' : 'success'" :closable="false" role="note">
        <b class="figure">{{ one.left ? one.left : '✓ ready' }}</b>
        {{ one.title }}<template v-if="one.left">: not before {{ one.until }}</template>
      </el-alert>
    </li>
  </ul>
</template>
