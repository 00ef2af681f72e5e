<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Hook;
use App\Models\Model;
use App\Models\Outside;
use App\Models\Pair;
use App\Models\Person;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\ZoneKey;
use Illuminate\Console\Command;
use Illuminate\Contracts\Encryption\DecryptException;
use Illuminate\Encryption\Encrypter;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\DB;

/**
 * Every secret at rest is encrypted anew with the key of now; those of before are read with the keys of before. A test holds the list to
 * what the models say is encrypted. Nothing of it is a change of anybody's, so history does not tell it.
 */
final class SecretsAgain extends Command
{
    /** @var array<class-string<Model>, string> model → its column */
    public const AT = [
        Server::class => 'token', Pair::class => 'keys', Outside::class => 'token', TransferKey::class => 'secret',
        Person::class => 'code_secret', Hook::class => 'secret', ZoneKey::class => 'secret',
    ];

    private const PART = 500;

    protected $signature = 'secrets:again';

    protected $description = 'Encrypts every secret at rest anew with the key of now; exit status 1 where one cannot be read any more';

    public function handle(): int
    {
        $own = new Encrypter($this->laravel->make('encrypter')->getKey(), $this->string('app.cipher'));
        $done = $there = 0;
        $lost = [];
        foreach (self::AT as $class => $column) {
            $table = (new $class)->getTable();
            foreach (DB::table($table)->whereNotNull($column)->where($column, '!=', '')->orderBy('id')->lazyById(self::PART) as $row) {
                $was = (string) $row->$column;
                if (self::opens($own, $was)) {
                    $there++;

                    continue;
                }
                try {
                    $now = $own->encryptString(Crypt::decryptString($was));
                } catch (DecryptException) {
                    $lost[] = "$table $row->id";

                    continue;
                }
                // What somebody changed meanwhile was written with the key of now.
                $done += DB::table($table)->where('id', $row->id)->where($column, $was)->update([$column => $now]);
            }
        }
        $this->line("$done ".($done === 1 ? 'secret was' : 'secrets were')." encrypted anew, $there had the key of now already.");
        foreach ($lost as $one) {
            $this->error("$one cannot be read with any key that is known.");
        }

        return $lost === [] ? 0 : 1;
    }

    private static function opens(Encrypter $with, string $text): bool
    {
        try {
            $with->decryptString($text);

            return true;
        } catch (DecryptException) {
            return false;
        }
    }

    private function string(string $key): string
    {
        $value = config($key);

        return is_string($value) ? $value : '';
    }
}
