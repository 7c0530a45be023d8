<script setup lang="ts">
defineProps<{ lost: string[] }>()
const emit = defineEmits<{ yes: []; no: [] }>()
</script>

<template>
  <div v-if="lost.length" class="notice wait" role="alertdialog" aria-label="What no longer holds">
    <div class="stack">
      <b>What no longer holds then</b>
      <ul>
        <li v-for="one in lost" :key="one">{{ one }}</li>
      </ul>
      <div class="row">
        <el-button type="primary" @click="emit('yes')">Go back all the same</el-button>
        <el-button @click="emit('no')">Leave it</el-button>
      </div>
    </div>
  </div>
</template>

<style scoped>
ul {
  padding-left: 20px;
  margin: 0;
}
</style>
