<?php

declare(strict_types=1);

use App\Acts\Name\MakeKey;
use App\Console\SecretsAgain;
use App\Models\TransferKey;
use Illuminate\Encryption\Encrypter;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->old = Crypt::getFacadeRoot()->getKey();
    $make = MakeKey::fromInput([
        'name' => 'copies-'.bin2hex(random_bytes(3)), 'secret' => base64_encode('a key between two servers, 32 by'),
    ]);
    $this->w->did($make);
    $this->key = TransferKey::query()->findOrFail($make->id);
    $this->secret = $this->key->secret;
    // The application comes up with another key; what it had is still read, where it is named.
    $this->rekeyed = function (bool $named = true): void {
        $now = new Encrypter(random_bytes(32), config('app.cipher'));
        Crypt::swap($named ? $now->previousKeys([$this->old]) : $now);
        app()->instance('encrypter', Crypt::getFacadeRoot());
        App\Models\Model::encryptUsing(Crypt::getFacadeRoot());
    };
    $this->stands = fn (): string => (string) DB::table('transfer_keys')->where('id', $this->key->id)->value('secret');
});

afterEach(fn () => App\Models\Model::encryptUsing(null));

it('names every column that a model says is encrypted', function (): void {
    $found = [];
    foreach (glob(app_path('Models/*.php')) as $file) {
        $class = 'App\\Models\\'.basename($file, '.php');
        if (! is_subclass_of($class, App\Models\Model::class) || (new ReflectionClass($class))->isAbstract()) {
            continue;
        }
        foreach ((new $class)->getCasts() as $column => $cast) {
            if (str_starts_with((string) $cast, 'encrypted')) {
                $found[$class] = $column;
            }
        }
    }
    $named = SecretsAgain::AT;
    ksort($found);
    ksort($named);
    expect($named)->toBe($found);
});

it('encrypts what is there with the new key, so that the old one opens nothing any more', function (): void {
    $before = ($this->stands)();
    ($this->rekeyed)();
    expect(TransferKey::query()->find($this->key->id)->secret)->toBe($this->secret);
    expect(Artisan::call('secrets:again'))->toBe(0)->and(($this->stands)())->not->toBe($before);
    $old = new Encrypter($this->old, config('app.cipher'));
    expect(fn () => $old->decryptString(($this->stands)()))->toThrow(Illuminate\Contracts\Encryption\DecryptException::class)
        ->and(TransferKey::query()->find($this->key->id)->secret)->toBe($this->secret);
    // Once more changes nothing: killed midway it goes on where it was.
    $after = ($this->stands)();
    expect(Artisan::call('secrets:again'))->toBe(0)->and(($this->stands)())->toBe($after)
        ->and(DB::table('history')->where('object_id', $this->key->id)->count())->toBe(1);
});

it('names what it cannot read, leaves it, and does the rest', function (): void {
    DB::table('people')->where('id', $this->w->people['reader']->id)->update(['code_secret' => 'eyJub3QiOiJvdXJzIn0=']);
    $before = ($this->stands)();
    ($this->rekeyed)();
    expect(Artisan::call('secrets:again'))->toBe(1)
        ->and(Artisan::output())->toContain("people {$this->w->people['reader']->id} cannot be read with any key that is known")
        ->and(($this->stands)())->not->toBe($before)
        ->and((string) DB::table('people')->where('id', $this->w->people['reader']->id)->value('code_secret'))
        ->toBe('eyJub3QiOiJvdXJzIn0=');
    ($this->rekeyed)(false);
    expect(Artisan::call('secrets:again'))->toBe(1)->and(Artisan::output())->toContain("transfer_keys {$this->key->id}");
});
