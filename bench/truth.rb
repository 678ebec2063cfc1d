# frozen_string_literal: true

# Holds the gas against what is exact, published, or was wanted of it, and prints the whole table with
# a verdict for each line.   ruby bench/truth.rb [part of a line's name ...]
require_relative "support"
require_relative "truth/table"
require_relative "truth/gas"
%w[carrying rolls walls fire plumes alike].each { |part| require_relative "truth/#{part}" }

exit(Vumbral::Truth::Table.print(ARGV) ? 0 : 1)
