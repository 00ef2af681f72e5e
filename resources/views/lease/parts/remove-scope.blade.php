<x-cut id="cutscope" action="remove-scope" :input="['scope' => $scope->id]" target="#follows-scopeform" label="Remove the scope" class="row end" />
