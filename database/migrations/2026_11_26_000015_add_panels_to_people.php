<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The panels of the bridge, in an order of one's own. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', fn (Blueprint $t) => $t->string('panels', 200)->charset('ascii')->nullable()); // keys apart by blanks
        Schema::table('prefixes', fn (Blueprint $t) => $t->index('gateway'));
        Schema::table('shipments', fn (Blueprint $t) => $t->index(['state', 'id']));
        Schema::table('imports', fn (Blueprint $t) => $t->index(['person_id', 'state']));
    }

    public function down(): void
    {
        Schema::table('imports', fn (Blueprint $t) => $t->dropIndex(['person_id', 'state']));
        Schema::table('shipments', fn (Blueprint $t) => $t->dropIndex(['state', 'id']));
        Schema::table('prefixes', fn (Blueprint $t) => $t->dropIndex(['gateway']));
        Schema::table('people', fn (Blueprint $t) => $t->dropColumn('panels'));
    }
};
