{{-- Scopes like this one on other subnets: $scope --}}
<details class="panel">
  <summary class="bar-line"><b>Copy the scope</b> <span class="soft">to other subnets</span></summary>
  <div class="pad">
    <x-act id="copyscope" action="copy-scope">
      <input type="hidden" name="scope" value="{{ $scope->id }}">
      <x-field form="copyscope" name="prefixes" label="Subnets, a prefix a line" rows="3" mono
        hint="ranges at the same places of each; options, lease time and servers as here; reservations are not copied" />
      <x-field form="copyscope" name="stage" label="Stage" :options="\App\Models\Stage::ofScopes()" value="planned" />
    </x-act>
  </div>
</details>
<div id="follows-copyscope"></div>
