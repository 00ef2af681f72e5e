<details class="panel">
  <summary class="bar-line"><b>Name its leases</b></summary>
  <div class="pad">
    <x-act id="naming" action="name-leases">
      <input type="hidden" name="scopes[]" value="{{ $scope->id }}">
      <x-field form="naming" name="who" label="Who writes the names" :options="$namers" :value="$scope->name_who?->value ?? 'server'" />
      <x-field form="naming" name="zone" label="Zone" pick="zone" :value="$scope->name_zone_id ?? ''" :shown="$scope->nameZone?->title() ?? ''"
        blank="name of a zone" />
      <x-field form="naming" name="key" label="Key that signs" :options="$keys" blank="none" :value="$scope->name_key_id" />
      <x-field form="naming" name="from" label="Name" :options="['client' => 'as the client says', 'pattern' => 'always by the pattern']"
        :value="$scope->name_by_pattern ? 'pattern' : 'client'" />
      <div class="pair">
        <x-field form="naming" name="pattern" label="Pattern" mono :value="$scope->name_pattern"
          :placeholder="$prefix->family === 4 ? 'crew-{c}-{d}' : 'crew-{h}'" />
        <x-field form="naming" name="ttl" label="TTL" :value="$scope->name_ttl ? \HarborPost\Core\Dns\Ttl::of($scope->name_ttl)->short() : '10m'" />
      </div>
    </x-act>
  </div>
</details>
<div id="follows-naming"></div>
