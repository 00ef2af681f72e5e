<?php
use App\Links\BulkLeases; use Tests\Standins; use Tests\TestCase; use Tests\World; use App\Acts\Directory\MakeServer; use App\Models\Server; use App\Live\LeaseReading;
it('perf', function () {
    $s = new Standins(['dh1' => 'dhcp']); $w = World::make();
    $s->tell('dh1','put',['scope'=>['id'=>'s1','name'=>'x','subnet'=>'10.0.0.0/14','ranges'=>['10.0.0.10-10.3.0.250'],'exclusions'=>[],'lease_time'=>3600,'options'=>[],'reservations'=>[]]]);
    $at=time();
    for ($c=0;$c<100;$c++) { $l=[]; for($i=0;$i<1000;$i++){ $n=$c*1000+$i; $l[]=['scope'=>'s1','address'=>long2ip(ip2long('10.0.0.10')+$n),'mac'=>sprintf('02:00:%02x:%02x:%02x:01',$n>>16,($n>>8)&255,$n&255),'name'=>"h$n",'starts'=>$at-60,'ends'=>$at+86400]; } $s->tell('dh1','grant',['leases'=>$l]); }
    $make = MakeServer::fromInput(['name'=>'big','kind'=>'dhcp','endpoint'=>$s->endpoint('dh1')]); $w->did($make); $server=Server::query()->findOrFail($make->id);
    foreach ([1,2] as $k) { $t=microtime(true); $m=memory_get_peak_usage(); $r=app(LeaseReading::class)->read($server); fwrite(STDERR, sprintf("read %d: %.1f s %s peak %.0f MB\n",$k,microtime(true)-$t,json_encode($r),memory_get_peak_usage()/1e6)); }
    expect(true)->toBeTrue();
});
