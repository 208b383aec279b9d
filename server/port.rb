# frozen_string_literal: true

module Fobrel
  # The port to serve on. Read before the web library is, which stumbles over one that is none.
  #
  # @param environment [#fetch]
  # @return [Integer] 1–65535; ends the program with a sentence where it is no such number
  def self.port_from(environment)
    number = Integer(environment.fetch("PORT", "4810"), exception: false)
    number&.between?(
      1,
      65_535
    ) ? number : abort("fobrel: PORT must be a number from 1 to 65535, not #{environment["PORT"].inspect}.")
  end
end
