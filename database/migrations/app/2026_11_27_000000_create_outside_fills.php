<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Fills that were brought in from another program, to be seen beside one's own. */
return new class extends Migration {
    public function up(): void
    {
        Schema::create('outside_fills', static function (Blueprint $table): void {
            $table->id();
            $table->unsignedBigInteger('account');
            $table->string('contract', 12);
            $table->unsignedBigInteger('at');
            $table->string('side', 4);
            $table->unsignedInteger('quantity');
            $table->integer('tick');
            $table->string('key', 64);
            $table->unique(['account', 'key']);
            $table->index(['account', 'at']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('outside_fills');
    }
};
