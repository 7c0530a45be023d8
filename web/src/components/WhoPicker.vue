<script setup lang="ts">
import { connection, pick } from '../api/connection'
import { useMe } from '../stores/me'

/** Who works on this device now; shown once the workshop has named people. */
const store = useMe()
const choose = (event: Event) => pick((event.target as HTMLSelectElement).value)
</script>

<template>
  <label v-if="store.people.length" class="who">
    <span class="word">Who</span>
    <select :value="connection.person" aria-label="Who works on this device" @change="choose">
      <option value="">nobody picked</option>
      <option v-for="one in store.people" :key="one.id" :value="one.id">
        {{ one.initials }} · {{ one.name }}
      </option>
    </select>
  </label>
</template>

<style scoped>
.who {
  display: flex;
  gap: 8px;
  align-items: center;
  color: var(--chalk-soft);
}

select {
  min-height: 44px;
  max-width: 170px;
  padding: 0 8px;
  color: var(--chalk);
  background: #2b373a;
  border: 1px solid #4a585a;
  border-radius: var(--radius);
}

@media (width <= 700px) {
  .word {
    display: none;
  }

  select {
    width: 66px;
  }
}
</style>
