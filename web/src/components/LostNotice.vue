<script setup lang="ts">
defineProps<{ lost: string[] }>()
const emit = defineEmits<{ yes: []; no: [] }>()
</script>

<template>
  <el-alert
    v-if="lost.length"
    type="warning"
    title="What no longer holds then"
    :closable="false"
    role="alertdialog"
    aria-label="What no longer holds"
  >
    <ul class="pl-20px m-0">
      <li v-for="one in lost" :key="one">{{ one }}</li>
    </ul>
    <div class="row">
      <el-button type="primary" @click="emit('yes')">Go back all the same</el-button>
      <el-button @click="emit('no')">Leave it</el-button>
    </div>
  </el-alert>
</template>
