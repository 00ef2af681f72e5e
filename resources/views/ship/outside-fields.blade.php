{{-- What is written down of a system outside: $outside, or null for a new one --}}
<x-field form="outside" name="name" label="Name" :value="$outside->name ?? ''" />
<x-field form="outside" name="address" label="Address" mono :value="$outside->address ?? ''" placeholder="https://pools.example:8443" />
<x-field form="outside" name="token" label="Token" type="password" :hint="$outside ? 'blank keeps the one that is there' : null" autocomplete="off" />
<x-field form="outside" name="space" label="Space" pick="space" blank="name" :value="$outside->space_id ?? ''" :shown="$outside->space->name ?? ''" />
<x-field form="outside" name="under" label="Only what lies in this supernet" pick="prefix" blank="the whole space" :value="$outside->under_id ?? ''"
  :shown="$outside?->under?->line() ?? ''" />
