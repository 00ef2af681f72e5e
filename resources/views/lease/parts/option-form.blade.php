<details class="panel" open>
  <summary class="bar-line"><b>Set an option</b></summary>
  <div class="pad">
    <x-act id="option" action="set-option">
      <input type="hidden" name="scope" value="{{ $scope->id }}">
      <x-field form="option" name="code" label="Option" :options="$registered" :value="$prefix->family === 4 ? 42 : 23" />
      <x-field form="option" name="value" label="Values, one a line; bytes as 0x…; blank removes it" rows="2" mono />
      <x-check form="option" name="empty" label="empty on purpose: clients are sent none" />
    </x-act>
  </div>
</details>
<div id="follows-option"></div>
