@props(['stage', 'level' => 50])
<svg class="sw {{ $stage }}" role="img" aria-label="{{ $stage }}">@switch($stage)
@case('live')<rect class="water" y="{{ 100 - $level }}%" width="100%" height="{{ $level }}%"/><rect class="outline"/>@break
@case('retiring')<rect class="diag" width="100%" height="100%"/><rect class="outline"/>@break
@case('withheld')<rect class="cross" width="100%" height="100%"/><rect class="outline"/>@break
@case('open')<rect class="waves" width="100%" height="100%"/>@break
@default<rect class="outline"/>
@endswitch</svg>
