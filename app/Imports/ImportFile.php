<?php

declare(strict_types=1);

namespace App\Imports;

use App\Models\Import;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/**
 * The file of an import, which any machine may have to read: it stands in the database in pieces, and each machine keeps a copy for as long
 * as it is read. A file that is written anew (to UTF-8, from JSON) is another edition, so that no machine reads an old copy for the new.
 */
final class ImportFile
{
    private const PIECE = 1 << 20;

    /** Pieces that go in one statement. */
    private const TRIM = 20;

    /** Seconds after which a copy that nobody read goes; it is brought again when it is wanted. */
    private const COPY = 2 * 86400;

    /** What was uploaded, with the files that came beside it, each under the hash of its name in a folder. */
    public static function keep(string $import, string $path): void
    {
        self::sweep();
        self::put($import, 0, $path);
        self::copyTo($path, self::place($import, 0));
    }

    /**
     * Writes the file anew as another edition. A machine that ends midway leaves the edition before.
     *
     * @param  \Closure(string): void  $work  gets the path of a copy that it changes where it stands
     */
    public static function rewrite(Import $import, \Closure $work): void
    {
        $next = $import->edition + 1;
        $path = self::place($import->id, $next);
        $draft = $path.'.'.bin2hex(random_bytes(4));
        copy(self::path($import), $draft) || throw new \DomainException('The file cannot be copied: is the disk full?');
        try {
            $work($draft);
            clearstatcache();
            DB::table('import_pieces')->where('import_id', $import->id)->where('edition', $next)->delete();
            self::put($import->id, $next, $draft);
            $import->edition = $next;
            $import->bytes = (int) filesize($draft);
            DB::table('imports')->where('id', $import->id)->update(['edition' => $next, 'bytes' => $import->bytes]);
            rename($draft, $path);
        } finally {
            @unlink($draft);
        }
    }

    /** Where it can be read on this machine; brought here when it was not here yet. */
    public static function path(Import $import): string
    {
        $path = self::place($import->id, $import->edition);
        if (is_file($path)) {
            return $path;
        }
        $pieces = DB::table('import_pieces')->where('import_id', $import->id)->where('edition', $import->edition);
        $names = (clone $pieces)->distinct()->pluck('name')->map(strval(...))->all();
        // The file itself last: where it is, all of it is.
        usort($names, static fn (string $a, string $b): int => strlen($b) <=> strlen($a));
        foreach ($names as $name) {
            $to = $name === '' ? $path : "$path.d/$name";
            is_dir(dirname($to)) || mkdir(dirname($to), 0700, true);
            $draft = $to.'.'.bin2hex(random_bytes(4));
            $file = fopen($draft, 'w') ?: throw new \DomainException('The file cannot be written here.');
            for ($place = 0; ($bytes = (clone $pieces)->where('name', $name)->where('place', $place)->value('bytes')) !== null; $place++) {
                fwrite($file, (string) $bytes) === strlen((string) $bytes)
                    || throw new \DomainException('The file cannot be written here: is the disk full?');
            }
            fclose($file);
            rename($draft, $to);
        }

        return $path;
    }

    public static function isThere(Import $import): bool
    {
        return is_file(self::path($import));
    }

    private static function put(string $import, int $edition, string $path): void
    {
        foreach (['' => $path] + self::beside($path) as $name => $from) {
            $file = fopen($from, 'r') ?: throw new \DomainException('The file is gone.');
            for ($place = 0; ($bytes = (string) stream_get_contents($file, self::PIECE)) !== ''; $place++) {
                DB::table('import_pieces')->insert([
                    'import_id' => $import, 'edition' => $edition, 'name' => $name, 'place' => $place, 'bytes' => $bytes, 'at' => now(),
                ]);
            }
            fclose($file);
        }
    }

    /** @return array<string, string> name → path of files that came with it */
    private static function beside(string $path): array
    {
        $files = [];
        foreach (glob("$path.d/*") ?: [] as $file) {
            $files[basename($file)] = $file;
        }

        return $files;
    }

    private static function copyTo(string $from, string $to): void
    {
        foreach (self::beside($from) as $name => $file) {
            is_dir("$to.d") || mkdir("$to.d", 0700, true);
            copy($file, "$to.d/$name");
        }
        copy($from, $to);
    }

    private static function place(string $import, int $edition): string
    {
        return self::directory()."/$import-$edition";
    }

    /** Nothing is kept of a file whose import did not begin. */
    public static function drop(string $import): void
    {
        DB::table('import_pieces')->where('import_id', $import)->delete();
        foreach (glob(self::directory()."/$import-*") ?: [] as $path) {
            is_dir($path) ? File::deleteDirectory($path) : @unlink($path);
        }
    }

    /** The files of these imports, and those whose import never began, some megabytes at once. */
    public static function trim(Builder $imports): void
    {
        do {
            $some = DB::table('import_pieces')
                ->where(static fn (Builder $q) => $q->whereIn('import_id', clone $imports)->orWhere(
                    static fn (Builder $w) => $w->where('at', '<', now()->subDay())
                        ->whereNotIn('import_id', DB::table('imports')->select('id')),
                ))
                ->limit(self::TRIM)->delete();
        } while ($some === self::TRIM);
        self::sweep();
    }

    /** A place for what is being uploaded, until it is kept. */
    public static function fresh(): string
    {
        return self::directory().'/'.bin2hex(random_bytes(12));
    }

    /** What was uploaded is kept by now, or was refused. */
    public static function forget(string $path): void
    {
        @unlink($path);
        File::deleteDirectory("$path.d");
    }

    private static function directory(): string
    {
        $directory = storage_path('app/imports');
        is_dir($directory) || mkdir($directory, 0700, true);

        return $directory;
    }

    /** Copies that nobody read for days, and what an ended process left. */
    private static function sweep(): void
    {
        foreach (glob(self::directory().'/*') ?: [] as $path) {
            if ((int) @filemtime($path) < time() - self::COPY) {
                is_dir($path) ? File::deleteDirectory($path) : @unlink($path);
            }
        }
    }
}
