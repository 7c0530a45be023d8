<script setup lang="ts">
import { connection, pick } from '../api/connection'
import { useMe } from '../stores/me'

/** Who works on this device now; shown once the workshop has named people. */
const store = useMe()
</script>

<template>
  <label v-if="store.people.length" class="flex gap-8px items-center c-chalk-soft">
    <span class="max-[700px]:hidden">Who</span>
    <el-select
      :persistent="false"
      :model-value="connection.person"
      aria-label="Who works on this device"
      :empty-values="[null, undefined]"
      @change="pick"
    >
      <el-option value="" label="nobody picked" />
      <el-option
        v-for="one in store.people"
        :key="one.id"
        :value="one.id"
        :label="`${one.initials} · ${one.name}`"
      />
    </el-select>
  </label>
</template>

<style scoped>
.el-select {
  width: 170px;
}

@media (width <= 700px) {
  .el-select {
    width: 86px;
  }
}
</style>
