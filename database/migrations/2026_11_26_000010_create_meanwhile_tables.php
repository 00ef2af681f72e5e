<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** History tells which version a write made and what the row belongs to; what is no placement has a place where it is noted as brought. */
return new class extends Migration
{
    /** Noun of a row → the column that names what it belongs to. */
    private const WITHIN = [
        'range' => 'scope_id', 'exclusion' => 'scope_id', 'reservation' => 'scope_id', 'scope on a server' => 'scope_id',
        'option' => 'layer_id',
        'address' => 'prefix_id', 'held run' => 'prefix_id', 'record' => 'zone_id', 'zone on a server' => 'zone_id',
    ];

    public function up(): void
    {
        Schema::table('history', function (Blueprint $t): void {
            $t->unsignedInteger('version')->nullable(); // of the row after the write; null when it is gone or has none
            $t->char('within_id', 26)->charset('ascii')->nullable(); // what the row belongs to: a range to its scope
            $t->unsignedInteger('within_version')->nullable(); // of that, where the same act raised it
            $t->index(['within_id', 'id']);
        });
        foreach (self::WITHIN as $noun => $column) {
            DB::update(
                'UPDATE history h JOIN (
                    SELECT object_id, MAX(JSON_VALUE(COALESCE(after, `before`), ?)) AS owner
                    FROM history WHERE object_type = ? GROUP BY object_id
                 ) o
                 ON o.object_id = h.object_id SET h.within_id = o.owner WHERE h.object_type = ? AND LENGTH(o.owner) = 26',
                ["$.$column", $noun, $noun],
            );
        }
        // Rows of a name are found by their place: the identity of a record needs no key of its own.
        Schema::table('import_rows', fn (Blueprint $t) => $t->dropIndex(['import_id', 'match_key']));
        Schema::create('brought', function (Blueprint $t): void {
            $t->char('server_id', 26)->charset('ascii');
            $t->string('kind', 10)->charset('ascii'); // what is no placement of its own: vlan, resolving
            $t->string('object_id', 64)->charset('ascii');
            $t->char('digest', 64)->charset('ascii'); // of what was meant when it was proved there
            $t->dateTime('at');
            $t->primary(['server_id', 'kind', 'object_id']);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('brought');
        Schema::table('import_rows', fn (Blueprint $t) => $t->index(['import_id', 'match_key']));
        Schema::table('history', function (Blueprint $t): void {
            $t->dropIndex(['within_id', 'id']);
            $t->dropColumn(['version', 'within_id', 'within_version']);
        });
    }
};
